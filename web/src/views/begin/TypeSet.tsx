import { useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextArea } from 'react-aria-components/TextArea'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { Problem } from '../../api/client'
import { values } from '../../api/plan'
import { useTypedSet } from '../../api/typed'
import type { TypedSet } from '../../api/types'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { fieldCSS } from '../../ui/fieldStyle'
import { Figure, Muted, Row, Stack } from '../../ui/layout'
import { useTake } from './useTake'

const example =
  'Ferry Lights 104: clean, verse clean x2 (sing), chorus crunch (sing), solo lead 16, out crunch\nLow Tide Cumbia 96\nNine Gulls'

/** A set as it is typed or pasted, which becomes songs, sounds and a set list. */
export function TypeSet({ onMade }: { onMade: () => void }) {
  const { plan, pickSet } = useChosen()
  const take = useTake()
  const [text, type] = useState('')
  const [name, call] = useState('')
  const [pattern, repeat] = useState('')
  const usual = `Set ${values(plan, 'set-lists').length + 1}`
  const { data, error, rested } = useTypedSet(text, name || usual, pattern)
  const shown = text.trim() && !error ? data : undefined
  const songs = shown?.draft.songs ?? []
  const make = async () => {
    if (shown && (await take(shown.file, `Make ${name || usual} of typed songs`))) {
      pickSet(shown.set_list)
      type('')
      call('')
      onMade()
    }
  }
  return (
    <Stack>
      <Field value={text} onChange={type}>
        <Label>Your set, a line for each song; titles are enough, spreadsheets can be pasted</Label>
        <TextArea rows={7} placeholder={example} spellCheck={false} />
      </Field>
      <Field value={pattern} onChange={repeat}>
        <Label>Sections of songs that name none</Label>
        <Input placeholder="verse clean 16 (sing), chorus crunch 8 (sing), solo lead 8" spellCheck={false} />
      </Field>
      {error && <p role="alert">{error instanceof Problem ? error.message : String(error)}</p>}
      {shown && songs.length > 0 && (
        <>
          <Understood set={shown} />
          <Row>
            <Field value={name} onChange={call} style={{ width: 220 }}>
              <Label>Name of the set</Label>
              <Input placeholder={usual} />
            </Field>
            <Button $strong isDisabled={!rested} onPress={() => void make()}>
              Make this set
            </Button>
          </Row>
        </>
      )}
    </Stack>
  )
}

function Understood({ set }: { set: TypedSet }) {
  const notes = [...set.said, ...set.draft.left]
  return (
    <div role="group" aria-label="What is understood">
      <Lines>
        {set.draft.songs.map((s, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a song may stand in a set twice
          <li key={`${i} ${s.title}`}>
            <b>{s.title}</b>
            <Figure>{s.no_tempo ? '–' : s.tempo.bpm}</Figure>
            <span>
              {s.sections.length === 0
                ? 'no sections'
                : s.sections
                    .map((x) =>
                      [
                        x.sound && x.sound !== x.label ? `${x.label}: ${x.sound}` : x.label,
                        x.bars ? `${x.bars} bars` : '',
                        x.singing ? 'singing' : '',
                      ]
                        .filter(Boolean)
                        .join(', '),
                    )
                    .join(' · ')}
            </span>
          </li>
        ))}
      </Lines>
      {notes.length > 0 && (
        <ul aria-label="How it was understood">
          {notes.map((s) => (
            <li key={s}>
              <Muted as="span">{s}</Muted>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

const Field = styled(
  TextField,
)`${fieldCSS} textarea { width: 100%; font: 400 16px/1.5 inherit; padding: 10px 12px; }`
const Lines = styled.ol`
  list-style: none; margin: 0 0 10px; padding: 0; display: grid; gap: 2px; max-height: 300px; overflow: auto;
  li { display: grid; grid-template-columns: minmax(110px, 200px) 44px minmax(0, 1fr); gap: 12px; align-items: baseline; padding: 4px 8px; background: var(--panel); }
  b { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; } span { color: var(--muted); font-size: 14px; }
`

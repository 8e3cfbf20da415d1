import { useState } from 'react'
import { Input } from 'react-aria-components/Input'
import { Label } from 'react-aria-components/Label'
import { TextArea } from 'react-aria-components/TextArea'
import { TextField } from 'react-aria-components/TextField'
import styled from 'styled-components'
import { Problem } from '../../api/client'
import { useKinds } from '../../api/plan'
import { useTypedChain } from '../../api/typed'
import type { Kind, TypedChip } from '../../api/types'
import { EffectMark } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { Actions } from '../../ui/Actions'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { fieldCSS } from '../../ui/fieldStyle'
import { Muted, Row, Stack } from '../../ui/layout'
import { replaced, typedAs } from './chips'
import { useTake } from './useTake'

const example =
  'tuner, volume, comp, light drive + mid-hump drive (one box), chorus / tremolo, tape echo tap, hall reverb > one-channel combo with loop: looper'

/** A chain in the player's own words, in the order of the signal, which becomes gear, a path and a rig. */
export function TypeChain({ onMade }: { onMade: () => void }) {
  const { pickRig } = useChosen()
  const take = useTake()
  const [text, type] = useState('')
  const [name, call] = useState('')
  const { data, error, rested } = useTypedChain(text, name)
  const shown = text.trim() ? data : undefined
  const make = async () => {
    if (shown && (await take(shown.file, `Make ${shown.name} of a typed chain`))) {
      pickRig(shown.rig)
      type('')
      call('')
      onMade()
    }
  }
  return (
    <Stack>
      <Field value={text} onChange={type}>
        <Label>Your chain, from the guitar on</Label>
        <TextArea rows={4} placeholder={example} spellCheck={false} />
      </Field>
      {error && <p role="alert">{error instanceof Problem ? error.message : String(error)}</p>}
      {shown && shown.chips.length > 0 && (
        <>
          <Chips chips={shown.chips} change={(c, by) => type(replaced(text, c.from, c.to, by))} />
          {shown.said.length > 0 && (
            <ul aria-label="How it was understood">
              {shown.said.map((s) => (
                <li key={s}>
                  <Muted as="span">{s}</Muted>
                </li>
              ))}
            </ul>
          )}
          <Row>
            <Field value={name} onChange={call} style={{ width: 220 }}>
              <Label>Name of the rig</Label>
              <TextLine placeholder={shown.name} />
            </Field>
            <Button $strong isDisabled={!rested} onPress={() => void make()}>
              Make this rig
            </Button>
          </Row>
        </>
      )}
      <Fold level={3} title="How to type a chain">
        <Grammar />
      </Fold>
    </Stack>
  )
}

/** What was understood, chip by chip. Each is a menu of what else it may be. */
function Chips({ chips, change }: { chips: TypedChip[]; change: (chip: TypedChip, by: string) => void }) {
  const { data } = useKinds()
  const kinds = data?.kinds ?? []
  return (
    <List aria-label="What is understood">
      {chips.map((c, i) => (
        <li key={`${c.from} ${c.text}`} data-new={chips[i - 1] && chips[i - 1]?.segment !== c.segment}>
          <Chip chip={c} kinds={kinds} change={change} />
        </li>
      ))}
    </List>
  )
}

const places: Record<TypedChip['place'], string> = {
  path: '',
  loop: 'in the loop',
  owned: 'owned',
  guitar: 'plugged in',
  board: 'stands on it',
  unknown: 'not understood',
}

function Chip(p: { chip: TypedChip; kinds: Kind[]; change: (chip: TypedChip, by: string) => void }) {
  const c = p.chip
  const first = c.others.map((o) => o.kind)
  const order = [...p.kinds].sort((a, b) => rank(first, a.id) - rank(first, b.id))
  const what = [
    c.with >= 0 ? 'in the same box' : '',
    places[c.place],
    c.loop ? `loop ${c.loop}` : '',
    c.count > 1 ? `${c.count} of them` : '',
    c.gear ? 'yours' : '',
  ].filter(Boolean)
  const is = c.is_a && c.is_a.toLowerCase() !== c.name.toLowerCase() ? c.is_a : ''
  return (
    <Actions
      label={`${c.name}${is ? `, taken as ${is}` : ''}${what.length > 0 ? `, ${what.join(', ')}` : ''}: take it as something else`}
      acts={order.map((k) => ({ id: k.id, name: k.name, run: () => p.change(c, typedAs(c, k)) }))}
    >
      <Face data-guess={!c.sure || undefined}>
        <EffectMark effect={c.place === 'guitar' ? 'guitar' : (c.effect ?? '')} />
        <span>
          <b>{c.name}</b>
          <small>{[c.sure ? is : is && `${is}?`, ...what].filter(Boolean).join(' · ') || '\u00a0'}</small>
        </span>
      </Face>
    </Actions>
  )
}

const rank = (first: string[], id: string) => {
  const at = first.indexOf(id)
  return at < 0 ? first.length : at
}

function Grammar() {
  return (
    <Rules>
      {[
        ['a, b', 'one after the other, in the order of the signal'],
        ['a + b', 'one box with two circuits'],
        ['a / b', 'one or the other: the first is placed, the other is owned'],
        ['> amp', 'on to the amp, or to the house'],
        ['amp: a, b', 'in the loop of the amp'],
        ['> amp | amp', 'lanes: each gets the signal'],
        ['[1 a][2 b, c]', 'loops of a loop switcher'],
        ['Amber = a', 'a box with a name of its own; a name you own is that box'],
        ['2 x a', 'several of a kind'],
        ['9V 250mA 120x70 400g', 'what it draws, its size in mm, its weight'],
      ].map(([typed, means]) => (
        <div key={typed}>
          <dt>
            <code>{typed}</code>
          </dt>
          <dd>{means}</dd>
        </div>
      ))}
    </Rules>
  )
}

const Field = styled(
  TextField,
)`${fieldCSS} textarea { width: 100%; font: 400 16px/1.5 var(--face-text, inherit); padding: 10px 12px; }`
const TextLine = Input
const List = styled.ol`
  display: flex; flex-wrap: wrap; gap: 8px; list-style: none; margin: 0; padding: 0;
  li[data-new='true']::before { content: '›'; margin-right: 8px; color: var(--muted); font-size: 22px; }
  li { display: flex; align-items: center; }
`
const Face = styled.span`
  display: flex; gap: 8px; align-items: center; text-align: left; min-height: 38px;
  span { display: grid; } b { font: 600 16px/1.1 var(--face-label); } small { font-size: 12px; color: var(--muted); }
  &[data-guess] b { text-decoration: underline dotted; text-underline-offset: 3px; }
`
const Rules = styled.dl`
  display: grid; gap: 4px; margin: 0; > div { display: grid; grid-template-columns: 190px 1fr; gap: 12px; } dd { margin: 0; color: var(--muted); } code { font-family: var(--face-figures); }
`

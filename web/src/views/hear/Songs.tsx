import { startTransition, useDeferredValue, useEffect, useRef, useState } from 'react'
import { useLocation } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import type { Song } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen, usePlace } from '../../state/place'
import { tight } from '../../theme/tokens'
import { Actions } from '../../ui/Actions'
import { Button } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField, TextField } from '../../ui/fields'
import { Figure, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { ManySections } from './ManySections'
import { Sections } from './Sections'
import { SongLayers } from './SongLayers'
import { SongTimes } from './SongTimes'
import { TapTempo } from './TapTempo'

export function Songs() {
  const { plan, section, cursor } = usePlace()
  const edit = useEdit()
  const { search } = useLocation()
  const songs = values(plan, 'songs')
  const [chosen, choose] = useState<string | undefined>()
  // Walking the night takes the sheet along, once the cursor has moved; a set that changes under the cursor does not.
  const here = useRef(section?.song_id)
  here.current = section?.song_id
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the cursor that is followed
  useEffect(() => startTransition(() => choose(here.current)), [cursor])
  const picked = songs.find((s) => s.id === chosen) ?? songs[0]
  // The list answers the hand at once; the sheet, whose fields are made anew, follows.
  const shown = useDeferredValue(picked?.id)
  const song = songs.find((s) => s.id === shown) ?? picked
  const first = useRef(song?.id)
  const add = async () => {
    const made: Song = {
      id: freshId(),
      title: `Song ${songs.length + 1}`,
      tempo: { bpm: 120 },
      meter: { beats: 4, unit: 4 },
      sections: [],
    }
    choose(made.id)
    await edit.add('songs', `Add ${made.title}`, made)
  }
  return (
    <Stack>
      {songs.length > 0 && (
        <Fold key={search} title="Many sections at once" level={2} open={search.includes('many')}>
          <ManySections />
        </Fold>
      )}
      <Columns>
        <Stack $gap={6}>
          <List aria-label="Songs">
            {songs.map((s) => (
              <li key={s.id}>
                <Pick
                  type="button"
                  aria-current={s.id === picked?.id ? 'true' : undefined}
                  onClick={() => choose(s.id)}
                >
                  <span title={s.title}>{s.title}</span>
                  <Figure>{s.tempo.bpm}</Figure>
                </Pick>
              </li>
            ))}
          </List>
          <Button onPress={() => void add()}>
            <Icon name="plus" /> Add a song
          </Button>
        </Stack>
        {song ? (
          <SongSheet key={song.id} song={song} follows={song.id !== first.current} />
        ) : (
          <Muted>A song is a title, a tempo, and sections that each ask for a sound.</Muted>
        )}
      </Columns>
    </Stack>
  )
}

/** The sheet of a song; one that follows the cursor is drawn a few sections at a time. */
function SongSheet({ song, follows }: { song: Song; follows: boolean }) {
  const { plan } = useChosen()
  const edit = useEdit()
  const set = (patch: Partial<Song>, what: string) =>
    edit.change('songs', song.id, `${what} of ${song.title}`, (s) => ({ ...s, ...patch }))
  const duplicate = () =>
    edit.add('songs', `Duplicate ${song.title}`, { ...song, id: freshId(), title: `${song.title} copy` })
  const guitars = values(plan, 'gear').filter((g) => g.kind === 'guitar')
  const tempo = (patch: Partial<Song['tempo']>, what: string) =>
    edit.change('songs', song.id, `${what} of ${song.title}`, (s) => ({
      ...s,
      tempo: { ...s.tempo, ...patch },
    }))
  const setTempo = (bpm: number | undefined) => bpm && tempo({ bpm }, 'Tempo')
  return (
    <Panel aria-label={song.title}>
      <Row>
        <Grow>
          <TextField label="Title" value={song.title} onCommit={(title) => set({ title }, 'Title')} />
        </Grow>
        <NumberField
          label="Tempo, bpm"
          width={92}
          value={song.tempo.bpm}
          min={20}
          max={400}
          onCommit={setTempo}
        />
        <TapTempo onTempo={setTempo} />
        <Select
          label="The beat is"
          value={song.tempo.beat ?? '1/4'}
          options={['1/8', '1/4', '1/4.', '1/2'].map((n) => ({ id: n, name: n }))}
          onChange={(beat) => tempo({ beat: beat === '1/4' ? undefined : beat }, 'Beat')}
        />
        <Select
          label="Meter"
          value={`${song.meter.beats}/${song.meter.unit}`}
          options={[
            '4/4',
            '3/4',
            '2/4',
            '6/8',
            '5/4',
            '7/8',
            '12/8',
            `${song.meter.beats}/${song.meter.unit}`,
          ]
            .filter((m, i, all) => all.indexOf(m) === i)
            .map((m) => ({ id: m, name: m }))}
          onChange={(m) => {
            const [beats, unit] = m.split('/').map(Number)
            set({ meter: { beats: beats ?? 4, unit: unit ?? 4 } }, 'Meter')
          }}
        />
        <Select
          label="Guitar"
          value={song.guitar ?? 'any'}
          options={[{ id: 'any', name: 'any' }, ...guitars.map((g) => ({ id: g.id, name: g.name }))]}
          onChange={(v) => set({ guitar: v === 'any' ? undefined : v }, 'Guitar')}
        />
        <Narrow>
          <TextField
            label="Tuning"
            value={song.tuning ?? ''}
            onCommit={(v) => set({ tuning: v || undefined }, 'Tuning')}
          />
        </Narrow>
        <NumberField
          label="Capo"
          width={60}
          value={song.capo}
          min={0}
          max={24}
          onCommit={(v) => set({ capo: v }, 'Capo')}
        />
        <Actions
          label={`Song actions for ${song.title}`}
          plain
          acts={[
            { id: 'copy', name: 'Duplicate', run: duplicate },
            { id: 'remove', name: 'Remove', run: () => edit.remove('songs', song.id, song.title) },
          ]}
        >
          <Icon name="more" />
        </Actions>
      </Row>
      <Sections song={song} follows={follows} />
      <SongLayers song={song} />
      <SongTimes song={song} />
    </Panel>
  )
}

const Columns = styled.div`display: grid; grid-template-columns: 180px minmax(0, 1fr); gap: 16px; align-items: start;
  ${tight} { grid-template-columns: minmax(0, 1fr); }
`
const List = styled.ul`display: grid; gap: 1px; ${tight} { max-height: 200px; overflow: auto; }`
const Pick = styled.button`
  width: 100%; display: flex; justify-content: space-between; gap: 8px; padding: 7px 8px; border: 0; background: none; cursor: pointer; text-align: left;
  span:first-child { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  &:hover { background: var(--panel); }
  &[aria-current] { background: var(--lit); color: var(--onLit); }
`
const Grow = styled.div`flex: 1 1 200px; min-width: 160px;`
const Narrow = styled.div`width: 92px;`

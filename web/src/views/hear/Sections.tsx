import { useState } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { GridList, GridListItem } from 'react-aria-components/GridList'
import { useDragAndDrop } from 'react-aria-components/useDragAndDrop'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import type { Section, Song } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { narrow, tape } from '../../theme/tokens'
import { Actions } from '../../ui/Actions'
import { Button, Switch } from '../../ui/controls'
import { NumberField, TextField } from '../../ui/fields'
import { Muted, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { useGrowing } from '../../ui/useGrowing'
import { moved } from '../moved'
import { Looping } from './Looping'
import { known, layersOf, playingOnly, recording, without } from './looped'
import { asWritten, otherIn, playersOf, withOther } from './players'

/** The sections of a song, edited where they stand. */
export function Sections({ song, follows }: { song: Song; follows: boolean }) {
  const { plan, rig } = useChosen()
  const edit = useEdit()
  const sounds = values(plan, 'sounds')
  const players = playersOf(plan)
  const drawn = useGrowing(song.sections, 2, !follows)
  const [whose, pickPlayer] = useState('')
  const player = players.find((x) => x.id === whose)
  const change = (what: string, update: (list: Section[]) => Section[]) =>
    edit.change('songs', song.id, what, (s) => ({ ...s, sections: update(s.sections) }))
  const put = (id: string, patch: Partial<Section>, what: string) =>
    change(`${what} in ${song.title}`, (list) => list.map((s) => (s.id === id ? { ...s, ...patch } : s)))
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((k) => ({ 'text/plain': String(k) })),
    onReorder: (e) =>
      change(`Reorder ${song.title}`, (list) =>
        moved(
          list,
          (s) => e.keys.has(s.id),
          (s) => s.id === e.target.key,
          e.target.dropPosition === 'after',
        ),
      ),
  })
  if (sounds.length === 0) return <Muted>Name a sound first; a section needs one.</Muted>
  const add = () => {
    const id = freshId()
    change(`Add a section to ${song.title}`, (list) => [
      ...list,
      {
        id,
        label: list.length === 0 ? 'Intro' : 'Verse',
        sound: list.at(-1)?.sound ?? sounds[0]?.id ?? '',
        bars: 8,
      },
    ])
  }
  const step = (id: string, by: number) =>
    change(`Reorder ${song.title}`, (list) => {
      const from = list.findIndex((s) => s.id === id)
      const to = Math.max(0, Math.min(list.length - 1, from + by))
      const next = list.filter((s) => s.id !== id)
      const it = list[from]
      if (it) next.splice(to, 0, it)
      return next
    })
  const copy = (section: Section) => {
    const id = freshId()
    change(`Duplicate ${section.label}`, (list) =>
      list.flatMap((s) => (s.id === section.id ? [s, { ...s, id, looping: playingOnly(s.looping) }] : [s])),
    )
  }
  const recipes = (sound: string) => (rig?.recipes ?? []).filter((r) => r.sound === sound)
  return (
    <Stack $gap={8}>
      {players.length > 0 && (
        <Select
          label="Sounds of"
          value={whose}
          options={[{ id: '', name: 'The player whose sounds songs name' }, ...players]}
          onChange={pickPlayer}
        />
      )}
      <Grid
        aria-label={`Sections of ${song.title}`}
        items={drawn}
        dependencies={[whose]}
        dragAndDropHooks={dragAndDropHooks}
        keyboardNavigationBehavior="tab"
      >
        {(s: Section) => (
          <Item
            id={s.id}
            textValue={s.label}
            style={{ borderLeftColor: tape(sounds.find((x) => x.id === s.sound)?.tape) }}
          >
            <Grip slot="drag" aria-label={`Move ${s.label}`}>
              <Icon name="grip" />
            </Grip>
            <TextField
              hideLabel="wide"
              label="Section"
              value={s.label}
              onCommit={(label) => put(s.id, { label }, 'Name')}
            />
            <Select
              hideLabel="wide"
              label={`Sound of ${s.label}`}
              value={player ? (otherIn(s, player)?.sound ?? asWritten) : s.sound}
              options={[
                ...(player ? [{ id: asWritten, name: 'As the song says' }] : []),
                ...sounds.map((x) => ({ id: x.id, name: x.name, tape: tape(x.tape) })),
              ]}
              onChange={(sound) =>
                player
                  ? put(s.id, { others: withOther(s, player, sound) }, `${player.name} in ${s.label}`)
                  : put(s.id, { sound, recipe: undefined }, `Sound of ${s.label}`)
              }
            />
            <NumberField
              hideLabel="wide"
              label="Bars"
              placeholder="open"
              value={s.bars}
              min={0.25}
              max={1000}
              onCommit={(bars) => put(s.id, { bars }, 'Bars')}
            />
            <NumberField
              hideLabel="wide"
              label="Rest before, beats"
              placeholder="0"
              value={s.rest_beats}
              min={0}
              max={256}
              step={0.25}
              onCommit={(v) => put(s.id, { rest_beats: v }, 'Rest')}
            />
            <NumberField
              hideLabel="wide"
              label="Lead, beats"
              placeholder="1"
              value={s.lead_beats}
              min={0}
              max={64}
              step={0.25}
              onCommit={(v) => put(s.id, { lead_beats: v }, 'Lead')}
            />
            <NumberField
              hideLabel="wide"
              label="Grace, beats"
              placeholder="0.25"
              value={s.grace_beats}
              min={0}
              max={64}
              step={0.25}
              onCommit={(v) => put(s.id, { grace_beats: v }, 'Grace')}
            />
            <Switch
              hideLabel="wide"
              label={`Singing in ${s.label}`}
              value={Boolean(s.singing)}
              onChange={(on) => put(s.id, { singing: on || undefined }, 'Singing')}
            />
            <Actions
              label={`Actions for ${s.label}`}
              plain
              acts={[
                { id: 'up', name: 'Move up', run: () => step(s.id, -1) },
                { id: 'down', name: 'Move down', run: () => step(s.id, 1) },
                {
                  id: 'layer',
                  name: s.looping?.records ? 'Record no layer' : 'Record a layer',
                  run: () => change(`Layer of ${s.label}`, (list) => recording(list, s.id)),
                },
                { id: 'copy', name: 'Duplicate', run: () => copy(s) },
                {
                  id: 'tempo',
                  name: s.tempo ? 'Back to the song’s tempo' : 'A tempo of its own',
                  run: () =>
                    put(s.id, { tempo: s.tempo ? undefined : { ...song.tempo } }, `Tempo of ${s.label}`),
                },
                {
                  id: 'remove',
                  name: 'Remove',
                  run: () => change(`Remove ${s.label}`, (list) => without(list, s.id)),
                },
              ]}
            >
              <Icon name="more" />
            </Actions>
            {s.tempo && (
              <Other>
                <NumberField
                  label={`Tempo of ${s.label}, bpm`}
                  value={s.tempo.bpm}
                  min={20}
                  max={400}
                  onCommit={(bpm) => bpm && put(s.id, { tempo: { ...s.tempo, bpm } }, `Tempo of ${s.label}`)}
                />
              </Other>
            )}
            {layersOf(song).length > 0 && (
              <Across>
                <Looping
                  section={s}
                  layers={known(song.sections, s.id)}
                  onChange={(update) => change(`Layers of ${s.label}`, (list) => update(list))}
                />
              </Across>
            )}
            {recipes(s.sound).length > 1 && (
              <Other>
                <Select
                  label={`Recipe for ${s.label}`}
                  value={s.recipe ?? 'first'}
                  options={recipes(s.sound).map((r, i) => ({
                    id: i === 0 ? 'first' : r.id,
                    name: r.name ?? (i === 0 ? 'usual' : `other ${i}`),
                  }))}
                  onChange={(v) => put(s.id, { recipe: v === 'first' ? undefined : v }, 'Recipe')}
                />
              </Other>
            )}
          </Item>
        )}
      </Grid>
      <Head aria-hidden="true">
        <span />
        <span>section</span>
        <span>sound</span>
        <span>bars</span>
        <span>rest</span>
        <span>lead</span>
        <span>grace</span>
        <span>sings</span>
      </Head>
      <Row style={{ order: 2 }}>
        <Button $strong={song.sections.length === 0} onPress={add}>
          <Icon name="plus" /> Add a section
        </Button>
      </Row>
    </Stack>
  )
}

const columns = '28px minmax(80px, 1.1fr) minmax(118px, 1.2fr) 60px 56px 56px 62px 50px 34px'
const Grid = styled(GridList)`display: grid; gap: 4px; order: 1;` as unknown as typeof GridList
const Item = styled(GridListItem)`
  display: grid; grid-template-columns: ${columns}; gap: 6px; align-items: center; border-left: 8px solid; padding: 2px 4px 2px 6px; background: var(--bg); outline-offset: 1px;
  [role='gridcell'] { display: contents; }
  &[data-dragging] { opacity: 0.5; }
  ${narrow} { display: flex; flex-wrap: wrap; align-items: end; padding-bottom: 8px; > * > * { flex: 1 1 84px; } > * > :first-child, > * > :nth-last-child(1) { flex: none; } }
`
const Head = styled.div`
  display: grid; grid-template-columns: ${columns}; gap: 6px; padding: 0 4px 0 14px; font-size: 12px; color: var(--muted); order: 0;
  ${narrow} { display: none; }
`
const Across = styled.div`grid-column: 2 / -1; padding-bottom: 6px;`
const Other = styled.div`grid-column: 2 / 4; padding-bottom: 4px;`
const Grip = styled(
  AriaButton,
)`border: 0; background: none; padding: 6px 4px; cursor: grab; color: var(--muted);`

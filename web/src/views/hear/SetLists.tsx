import { useState } from 'react'
import { Button as AriaButton } from 'react-aria-components/Button'
import { GridList, GridListItem } from 'react-aria-components/GridList'
import { useDragAndDrop } from 'react-aria-components/useDragAndDrop'
import { useNavigate } from 'react-router'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import { values } from '../../api/plan'
import type { SetEntry, SetList } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { Icon } from '../../marks/marks'
import { useChosen } from '../../state/place'
import { narrow } from '../../theme/tokens'
import { Actions } from '../../ui/Actions'
import { Button, IconButton, Switch } from '../../ui/controls'
import { Fold } from '../../ui/Fold'
import { NumberField, TextField } from '../../ui/fields'
import { Figure, Muted, Panel, Row, Stack } from '../../ui/layout'
import { Select } from '../../ui/Select'
import { moved, nudged } from '../moved'
import { SongOrder } from './SongOrder'
import { WishedPlaces, wishOf } from './WishedPlaces'

export function SetLists() {
  const { plan, setList, pickSet } = useChosen()
  const edit = useEdit()
  const navigate = useNavigate()
  const add = async () => {
    const made: SetList = { id: freshId(), name: `Set ${values(plan, 'set-lists').length + 1}`, entries: [] }
    pickSet(made.id)
    await edit.add('set-lists', `Add ${made.name}`, made)
  }
  return (
    <Stack>
      <Muted>The songs of a night in order, with the gap before each, or a segue that leaves none.</Muted>
      {values(plan, 'set-lists').map((l) => (
        <SetSheet key={l.id} list={l} current={l.id === setList?.id} />
      ))}
      <div>
        <Button $strong={plan.set_lists.length === 0} onPress={() => void add()}>
          <Icon name="plus" /> Add a set list
        </Button>{' '}
        <Button onPress={() => navigate('/begin')}>Type or paste a set</Button>
      </div>
    </Stack>
  )
}

function SetSheet({ list, current }: { list: SetList; current: boolean }) {
  const { plan, pickSet } = useChosen()
  const edit = useEdit()
  const songs = values(plan, 'songs')
  const [song, setSong] = useState<string | undefined>()
  const [wished, wish] = useState<string | undefined>()
  const placed = list.entries.find((e) => e.id === wished)
  const change = (what: string, update: (entries: SetEntry[]) => SetEntry[]) =>
    edit.change('set-lists', list.id, what, (l) => ({ ...l, entries: update(l.entries) }))
  const put = (id: string, patch: Partial<SetEntry>, what: string) =>
    change(`${what} in ${list.name}`, (all) => all.map((e) => (e.id === id ? { ...e, ...patch } : e)))
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((k) => ({ 'text/plain': String(k) })),
    onReorder: (e) =>
      change(`Reorder ${list.name}`, (all) =>
        moved(
          all,
          (x) => e.keys.has(x.id),
          (x) => x.id === e.target.key,
          e.target.dropPosition === 'after',
        ),
      ),
  })
  // The songs stay the same, so that their recipes and presets do too; the copy is the one that is shown.
  const next = async () => {
    const taken = values(plan, 'set-lists').map((l) => l.name)
    let name = `After ${list.name}`
    for (let n = 2; taken.includes(name); n += 1) name = `After ${list.name} ${n}`
    const made: SetList = {
      ...list,
      id: freshId(),
      name: name.slice(0, 200),
      entries: list.entries.map((e) => ({ ...e, id: freshId() })),
    }
    const outcome = await edit.add('set-lists', `Make ${made.name}`, made)
    if (!outcome.problem) pickSet(made.id)
  }
  const title = (e: SetEntry) => songs.find((s) => s.id === e.song)?.title ?? 'a song that is gone'
  const add = (id: string | undefined) => {
    const chosen = songs.find((s) => s.id === id) ?? songs[0]
    const entry = chosen && { id: freshId(), song: chosen.id }
    if (entry) change(`Add ${chosen.title} to ${list.name}`, (all) => [...all, entry])
  }
  return (
    <Panel aria-label={list.name}>
      <Row>
        <Grow>
          <TextField
            label="Name"
            value={list.name}
            onCommit={(name) =>
              edit.change('set-lists', list.id, `Rename ${list.name}`, (l) => ({ ...l, name }))
            }
          />
        </Grow>
        <NumberField
          label="Usual gap, s"
          width={100}
          value={list.gap_s}
          placeholder="15"
          min={0}
          max={3600}
          onCommit={(gap_s) =>
            edit.change('set-lists', list.id, `Gap of ${list.name}`, (l) => ({ ...l, gap_s }))
          }
        />
        {!current && <Button onPress={() => pickSet(list.id)}>Work on this set</Button>}
        <Button onPress={() => void next()}>Next set from it</Button>
        <IconButton
          label={`Remove ${list.name}`}
          onPress={() => edit.remove('set-lists', list.id, list.name)}
        >
          <Icon name="cross" />
        </IconButton>
      </Row>
      <Grid
        aria-label={`Songs of ${list.name}`}
        items={list.entries}
        dragAndDropHooks={dragAndDropHooks}
        keyboardNavigationBehavior="tab"
        renderEmptyState={() => 'No songs in it yet.'}
      >
        {(e: SetEntry) => (
          <Item id={e.id} textValue={title(e)}>
            <Grip slot="drag" aria-label={`Move ${title(e)}`}>
              <Icon name="grip" />
            </Grip>
            <Figure>{list.entries.findIndex((x) => x.id === e.id) + 1}</Figure>
            <span>
              {title(e)} <Muted as="small">{wishOf(e)}</Muted>
            </span>
            <Switch
              label="Segue"
              value={Boolean(e.segue)}
              onChange={(on) => put(e.id, { segue: on || undefined }, 'Segue')}
            />
            <NumberField
              hideLabel
              label={`Gap before ${title(e)}, s`}
              placeholder={String(list.gap_s ?? 15)}
              value={e.gap_s}
              min={0}
              max={3600}
              onCommit={(gap_s) => put(e.id, { gap_s }, 'Gap')}
            />
            <Actions
              label={`Actions for ${title(e)}`}
              plain
              acts={[
                {
                  id: 'up',
                  name: 'Move up',
                  run: () => change(`Reorder ${list.name}`, (all) => nudged(all, e.id, -1)),
                },
                {
                  id: 'down',
                  name: 'Move down',
                  run: () => change(`Reorder ${list.name}`, (all) => nudged(all, e.id, 1)),
                },
                {
                  id: 'pin',
                  name: e.pinned ? 'Unpin' : 'Pin at its place',
                  run: () => put(e.id, { pinned: e.pinned ? undefined : true }, 'Pin'),
                },
                { id: 'places', name: 'Wished places', run: () => wish(e.id) },
                {
                  id: 'remove',
                  name: 'Take out',
                  run: () => change(`Take ${title(e)} out`, (all) => all.filter((x) => x.id !== e.id)),
                },
              ]}
            >
              <Icon name="more" />
            </Actions>
          </Item>
        )}
      </Grid>
      <Row>
        <Select
          label="Song"
          value={song ?? songs[0]?.id}
          options={songs.map((s) => ({ id: s.id, name: s.title }))}
          onChange={setSong}
        />
        <Button onPress={() => add(song)}>
          <Icon name="plus" /> Put it in the set
        </Button>
      </Row>
      {list.entries.length > 1 && (
        <Fold title="Guitar, tuning and capo between songs" level={2}>
          <SongOrder list={list} />
        </Fold>
      )}
      {placed && (
        <WishedPlaces
          title={title(placed)}
          entry={placed}
          of={list.entries.length}
          onChange={(patch) => put(placed.id, patch, 'Wished places')}
          onClose={() => wish(undefined)}
        />
      )}
    </Panel>
  )
}

/** Shows: a set list on a date, with the rig it is played on. */
const Grow = styled.div`flex: 1 1 200px;`
const Grid = styled(GridList)`display: grid; gap: 2px;` as unknown as typeof GridList
const Item = styled(GridListItem)`
  display: grid; grid-template-columns: 28px 28px minmax(120px, 1fr) 110px 84px 34px; gap: 8px; align-items: center; padding: 1px 4px; background: var(--bg);
  ${narrow} { display: flex; flex-wrap: wrap; > * > :nth-child(3) { flex: 1 1 60%; } }
  [role='gridcell'] { display: contents; }
  &[data-dragging] { opacity: 0.5; }
`
const Grip = styled(
  AriaButton,
)`border: 0; background: none; padding: 6px 4px; cursor: grab; color: var(--muted);`

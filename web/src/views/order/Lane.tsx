import { Button as AriaButton } from 'react-aria-components/Button'
import { GridList, GridListItem } from 'react-aria-components/GridList'
import { useDragAndDrop } from 'react-aria-components/useDragAndDrop'
import styled from 'styled-components'
import { EffectMark, Icon } from '../../marks/marks'
import { usePlace } from '../../state/place'
import { Actions } from '../../ui/controls'
import { Heading } from '../../ui/layout'
import type { Stop } from './chain'
import { gist, settingOf } from './lit'

const type = 'application/x-envex-stop'

/** One zone of the chain. Stops are moved by drag, by keyboard from their grip, or by menu. */
export function Lane(p: {
  zone: string
  title: string
  stops: Stop[]
  note: string | undefined
  picked: string | undefined
  pick: (key: string | undefined) => void
  move: (key: string, before: string | undefined, zone: string) => void
  step: (key: string, by: number) => void
  drop: (key: string) => void
  pin: (key: string, on: boolean) => void
}) {
  const { plan, rig, recipe } = usePlace()
  const place = (keys: Iterable<string>, target: string, after: boolean) => {
    const at = p.stops.findIndex((s) => s.key === target)
    const before = after ? p.stops[at + 1]?.key : target
    for (const key of keys) if (key !== before) p.move(key, before, p.zone)
  }
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((k) => ({ [type]: String(k), 'text/plain': String(k) })),
    acceptedDragTypes: [type],
    getDropOperation: () => 'move',
    onReorder: (e) => place([...e.keys].map(String), String(e.target.key), e.target.dropPosition === 'after'),
    onInsert: (e) =>
      void dropped(e.items).then((keys) =>
        place(keys, String(e.target.key), e.target.dropPosition === 'after'),
      ),
    onRootDrop: (e) =>
      void dropped(e.items).then((keys) => {
        for (const k of keys) p.move(k, undefined, p.zone)
      }),
  })
  if (!rig) return null
  return (
    <section aria-label={p.title}>
      <Heading>{p.title}</Heading>
      <Wire aria-hidden="true" />
      <Grid
        aria-label={p.title}
        items={p.stops}
        layout="grid"
        keyboardNavigationBehavior="tab"
        selectionMode="single"
        selectionBehavior="replace"
        disallowEmptySelection={false}
        selectedKeys={p.picked ? [p.picked] : []}
        onSelectionChange={(keys) => keys !== 'all' && p.pick([...keys].map(String)[0])}
        dragAndDropHooks={dragAndDropHooks}
        dependencies={[recipe, rig, plan.variables, p.picked]}
        renderEmptyState={() => <Empty>{p.note ?? 'Nothing here. Drop a stop, or add one.'}</Empty>}
      >
        {(s: Stop) => {
          const mine = plan.variables.filter((v) => `${v.gear}/${v.block}` === s.key)
          const sw = mine.find((v) => v.switch)
          const on = !sw || settingOf(rig, recipe, sw).value === true
          return (
            <Card
              id={s.key}
              textValue={`${s.name}, ${on ? 'on' : 'off'}`}
              $on={on}
              $gone={Boolean(recipe?.rockers?.includes(s.key))}
            >
              <Grip slot="drag" aria-label={`Move ${s.name}`}>
                <Icon name="grip" />
              </Grip>
              <EffectMark effect={s.effect} />
              {s.pinned && <Pin title="Pinned">pinned</Pin>}
              <b title={s.name}>{s.gear.kind === 'amp' ? s.name.slice(s.gear.name.length + 1) : s.name}</b>
              <small>
                {on
                  ? recipe?.rockers?.includes(s.key)
                    ? 'foot on it'
                    : gist(rig, recipe, mine) || (sw ? 'on' : 'always on')
                  : 'off'}
              </small>
              <Corner>
                <Actions
                  label={`Actions for ${s.name}`}
                  plain
                  acts={[
                    { id: 'earlier', name: 'Move earlier', run: () => p.step(s.key, -1) },
                    { id: 'later', name: 'Move later', run: () => p.step(s.key, 1) },
                    {
                      id: 'front',
                      name: 'To the front of the amp',
                      run: () =>
                        p.move(
                          s.key,
                          p.zone === 'front' ? p.stops[0]?.key : ampOf(plan.zones[rig.id] ?? [], rig),
                          'front',
                        ),
                    },
                    { id: 'loop', name: 'Into the loop', run: () => p.move(s.key, undefined, 'loop') },
                    {
                      id: 'pin',
                      name: s.pinned ? 'Let it be moved' : 'Pin it here',
                      run: () => p.pin(s.key, !s.pinned),
                    },
                    { id: 'out', name: 'Out of the chain', run: () => p.drop(s.key) },
                  ]}
                >
                  <Icon name="more" />
                </Actions>
              </Corner>
            </Card>
          )
        }}
      </Grid>
      {p.note && p.stops.length > 0 && <Empty>{p.note}</Empty>}
    </section>
  )
}

/** The key of the preamp, before which the front of the amp ends. */
function ampOf(zones: string[], rig: { path?: { stop?: string }[] }): string | undefined {
  const last = zones.lastIndexOf('front')
  return rig.path?.[last]?.stop
}

async function dropped(items: { kind: string }[]): Promise<string[]> {
  const texts = items.flatMap((i) =>
    i.kind === 'text' ? [(i as unknown as { getText: (t: string) => Promise<string> }).getText(type)] : [],
  )
  return Promise.all(texts)
}

const Wire = styled.div`height: 2px; background: var(--muted); margin: 6px 0 0;`
const Grid = styled(GridList)`
  display: flex; flex-wrap: wrap; gap: 6px; padding: 10px 0 4px; min-height: 58px; outline-offset: 4px;
  &[data-drop-target] { background: var(--panel); }
  .react-aria-DropIndicator { width: 4px; background: transparent; }
  .react-aria-DropIndicator[data-drop-target] { background: var(--focus); }
` as unknown as typeof GridList
const Card = styled(GridListItem)<{ $on: boolean; $gone: boolean }>`
  position: relative; width: 80px; padding: 10px 4px 6px; cursor: pointer; outline-offset: 2px; border: 1px solid ${(p) => (p.$on ? 'var(--lit)' : 'var(--line)')};
  background: ${(p) => (p.$on ? 'var(--lit)' : 'var(--raised)')}; color: ${(p) => (p.$on ? 'var(--onLit)' : 'var(--muted)')};
  display: grid; justify-items: center; align-content: start; gap: 2px; min-height: 68px;
  &::before { content: ''; position: absolute; left: 50%; top: -11px; height: 10px; width: 2px; background: var(--muted); }
  b { font: 600 16px/1.1 var(--face-label); max-width: 72px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  small { font: 400 12px/1.2 var(--face-figures); max-width: 74px; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  &[data-selected] { box-shadow: 0 0 0 2px var(--bg), 0 0 0 4px var(--focus); }
  &[data-dragging] { opacity: 0.5; }
  button { color: inherit; }
`
const Grip = styled(
  AriaButton,
)`position: absolute; left: 0; top: 0; border: 0; background: none; padding: 5px 2px; cursor: grab; opacity: 0.75;`
const Pin = styled.em`position: absolute; bottom: -8px; font: 600 12px/1 var(--face-label); background: var(--bg); color: var(--text); padding: 0 4px;`
const Corner = styled.span`
  position: absolute; right: -1px; top: -1px;
  button { min-height: 24px; padding: 2px 3px; background: none; border: 0; }
`
const Empty = styled.span`color: var(--muted); font-size: 13px;`

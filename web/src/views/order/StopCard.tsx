import { createContext, memo, useContext, useLayoutEffect, useRef } from 'react'
import { Button as AriaButton, ButtonContext } from 'react-aria-components/Button'
import { GridListItem } from 'react-aria-components/GridList'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import type { PathNode, Traced, WholePlan } from '../../api/types'
import { EffectMark, Icon } from '../../marks/marks'
import type { Place as Where } from '../../state/place'
import type { Act } from '../../ui/Actions'
import { Actions } from '../../ui/Actions'
import {
  around,
  changed,
  flat,
  idOf,
  inLine,
  laneName,
  lanesOf,
  put,
  rowsOf,
  splitAround,
  stepped,
  without,
} from './chain'
import { gist, settingOf } from './lit'
import type { Chain } from './useChain'
import { slotOf } from './useSlots'
import { Wire } from './Wire'

/** A place of the chain as it is drawn at the section the cursor is on. It stays the same object while none of it changes,
 * so that a card is drawn anew only when it looks different. */
export interface Card {
  id: string
  node: PathNode
  name: string
  traced: Traced | undefined
  on: boolean
  title: string
  description: string
  of: string | undefined
  mark: string
  loop: string | undefined
  /** The other boxes of its swap slot. */
  swaps: string | undefined
  marked: boolean
  preview: boolean
}

// The list tells its buttons something new whenever any card changes; this one has nothing to do with that.
const ofItsOwn = {}

/** What the list is told of a place of the chain. It says nothing of how that looks: when any of it changes, the list
 * draws every place anew. */
export interface Place {
  id: string
  name: string
  split: boolean
}

/** How the places of a list look, by id. */
export const Faces = createContext<ReadonlyMap<string, Card>>(new Map())

/** One place of the chain: a stop, or the head of a split. */
export function NodeCard({ place, acts }: { place: Place; acts: (node: PathNode) => Act[] }) {
  return (
    <Item id={place.id} textValue={place.name} $split={place.split}>
      <Face id={place.id} acts={acts} />
    </Item>
  )
}

function Face({ id, acts }: { id: string; acts: (node: PathNode) => Act[] }) {
  const card = useContext(Faces).get(id)
  return card && <Drawn card={card} acts={acts} />
}

const Drawn = memo(function Drawn({ card: c, acts }: { card: Card; acts: (node: PathNode) => Act[] }) {
  const split = Boolean(c.node.split)
  const box = useRef<HTMLDivElement>(null)
  // The place is called by how it stands, too; the list knows its name alone.
  const called = `${c.name}, ${split ? c.description : c.on ? 'on' : 'off'}`
  useLayoutEffect(() => box.current?.closest('[role=row]')?.setAttribute('aria-label', called), [called])
  return (
    <>
      <Wire at={c.traced} />
      <Box ref={box} className="box" $on={c.on} $split={split} $marked={c.marked}>
        {!c.preview && (
          <Grip slot="drag" aria-label={`Move ${c.name}`}>
            <Icon name="grip" />
          </Grip>
        )}
        <EffectMark effect={c.mark} />
        {c.node.pinned && <Pin title="Pinned">pinned</Pin>}
        <b title={c.name}>{c.title}</b>
        <small title={c.description}>{c.description}</small>
        {c.of && <i title={c.of}>{c.of}</i>}
        {c.loop && <small>{c.loop}</small>}
        {!c.preview && (
          <Corner>
            <ButtonContext value={ofItsOwn}>
              <Actions label={`Actions for ${c.name}`} plain acts={() => acts(c.node)}>
                <Icon name="more" />
              </Actions>
            </ButtonContext>
          </Corner>
        )}
      </Box>
      {c.swaps && <Behind title={c.swaps}>{c.swaps}</Behind>}
    </>
  )
})

/** What a card shows of a place of the chain. */
export function cardOf(node: PathNode, chain: Chain, place: Where): Card {
  const id = idOf(node)
  const held = chain.rig.held?.some((h) => h.switcher === node.switcher && h.loop === node.loop)
  return {
    id,
    node,
    name: chain.name(id),
    traced: chain.traced.get(id),
    swaps: swapWords(node, chain),
    loop: node.loop ? `loop ${node.loop}${held ? ', held' : ''}` : undefined,
    marked: chain.marked === id,
    preview: chain.preview,
    ...faceOf(node, chain, place),
  }
}

/** What else can stand there: "or Tremolo". */
function swapWords(node: PathNode, { rig, gearName }: Chain): string | undefined {
  const gear = node.stop?.split('/')[0] ?? ''
  const others = slotOf(rig, gear)?.boxes?.filter((b) => b.gear !== gear)
  return others?.length ? `or ${others.map((b) => gearName(b.gear)).join(', ')}` : undefined
}

function faceOf(
  node: PathNode,
  { stops, name }: Chain,
  { plan, here, recipe, report, position }: Where,
): Pick<Card, 'on' | 'title' | 'description' | 'of' | 'mark'> {
  const silent = report?.sections[position]?.silent?.includes(node.stop ?? '') ?? false
  const of = undefined
  if (node.split) {
    const s = node.split
    const from = s.kind === 'tap' ? s.from?.split('/')[0] : s.from
    const by = stops.get(s.from ?? '')?.gear.name ?? ''
    return {
      on: false,
      title: s.kind === 'tap' ? 'tap' : by || 'split',
      description: s.kind === 'tap' ? `from ${tapName(plan, from ?? '')}` : s.kind,
      of,
      mark: 'splitter',
    }
  }
  const stop = stops.get(node.stop ?? '')
  const key = node.stop ?? ''
  if (!stop || !here) return { on: false, title: name(key), description: 'not owned any more', of, mark: '' }
  const mine = plan.variables.filter((v) => `${v.gear}/${v.block}` === key)
  const sw = mine.find((v) => v.switch)
  const on = !sw || settingOf(here, recipe, sw).value === true
  const description = !on
    ? 'off'
    : silent
      ? 'not in the signal'
      : recipe?.rockers?.includes(key)
        ? 'foot on it'
        : gist(here, recipe, mine) || (sw ? 'on' : 'always on')
  const face = { on: on && !silent, description, of, mark: stop.effect }
  const several = (stop.gear.blocks?.length ?? 0) > 1
  return several
    ? { ...face, title: stop.name.slice(stop.gear.name.length + 1), of: stop.gear.name }
    : { ...face, title: stop.name }
}

const tapName = (plan: WholePlan, gear: string) =>
  plan.gear.find((g) => g.value.id === gear)?.value.name ?? gear

/** Everything that can be done with a node, for its menu. */
export function actsOf(chain: Chain, node: PathNode): Act[] {
  const { path, stops, change, move, pick } = chain
  const id = idOf(node)
  const name = chain.name(id)
  const rows = rowsOf(path, stops)
  const inLane = around(path, id)
  const preamp = rows.front.at(-1)
  const stop = stops.get(node.stop ?? '')
  const ownLanes = new Set(flat([node]).flatMap((n) => (n.split ? [n.split.id] : [])))
  const lanes = flat(path).flatMap((n) =>
    n.split && !ownLanes.has(n.split.id)
      ? lanesOf(n.split).map((_, lane) => ({ split: n.split as NonNullable<typeof n.split>, lane }))
      : [],
  )
  const drop = () =>
    change(`Take ${name} out of the chain`, (p) => {
      const amp = stop?.gear.kind === 'amp' ? `${stop.gear.id}/` : undefined
      return without(p, (n) => idOf(n) === id || Boolean(amp && n.stop?.startsWith(amp)))
    })
  const acts: Act[] = [
    { id: 'earlier', name: 'Move earlier', run: () => change(`Move ${name}`, (p) => stepped(p, id, -1)) },
    { id: 'later', name: 'Move later', run: () => change(`Move ${name}`, (p) => stepped(p, id, 1)) },
  ]
  const first = rows.front[0]
  if (first && idOf(first) !== id)
    acts.push({
      id: 'first',
      name: 'To the front of the chain',
      run: () => move(id, { before: idOf(first) }),
    })
  if (preamp && rows.loop.length + rows.out.length > 0) {
    acts.push({ id: 'front', name: 'To the front of the amp', run: () => move(id, { before: idOf(preamp) }) })
    const last = rows.loop.filter((n) => idOf(n) !== id).at(-1) ?? preamp
    acts.push({ id: 'loop', name: 'Into the loop', run: () => move(id, { after: idOf(last) }) })
  }
  for (const l of lanes)
    if (!(inLane?.split === l.split.id && inLane.lane === l.lane))
      acts.push({
        id: `lane ${l.split.id} ${l.lane}`,
        name: `Into ${laneName(l.split, l.lane)} of ${chain.name(l.split.id)}`,
        run: () => move(id, { split: l.split.id, lane: l.lane }),
      })
  if (inLane)
    acts.push(
      {
        id: 'before',
        name: 'Out of its lane, before the split',
        run: () => move(id, { before: inLane.split }),
      },
      { id: 'after', name: 'Out of its lane, after the split', run: () => move(id, { after: inLane.split }) },
    )
  if (node.split)
    acts.push(
      {
        id: 'lane',
        name: 'Add a lane',
        disabled:
          node.split.kind === 'tap' || node.split.kind === 'left-right' || node.split.join === 'stereo',
        run: () =>
          change(`A lane for ${name}`, (p) =>
            changed(p, id, (n) => ({
              ...n,
              split: n.split && { ...n.split, lanes: [...lanesOf(n.split), {}] },
            })),
          ),
      },
      {
        id: 'line',
        name: 'Put its lanes in one line',
        run: () => change(`Undo ${name}`, (p) => inLine(p, id)),
      },
    )
  else {
    acts.push({
      id: 'split',
      name: 'Split around it',
      run: () => {
        const made = freshId()
        change(`Split around ${name}`, (p) => splitAround(p, id, made))
        pick(made)
      },
    })
    for (const j of stop?.gear.jacks ?? [])
      if (
        !/^(in|out|send|return)/.test(j.id) ||
        (stop?.gear.kind === 'amp' && !/^(in|send|return)/.test(j.id))
      )
        acts.push({
          id: `tap ${j.id}`,
          name: `Tap its ${j.name ?? j.id}`,
          run: () => {
            const made = freshId()
            change(`Tap ${name}`, (p) =>
              put(p, [{ split: { id: made, kind: 'tap', from: `${stop?.gear.id}/${j.id}`, lanes: [{}] } }], {
                after: id,
              }),
            )
          },
        })
  }
  const slot = slotOf(chain.rig, stop?.gear.id ?? '')
  for (const b of slot?.boxes ?? [])
    if (slot && b.gear !== stop?.gear.id)
      acts.push({
        id: `put ${b.gear}`,
        name: `Put ${chain.gearName(b.gear)} in its place`,
        run: () => chain.put(slot, b.gear),
      })
  acts.push(
    {
      id: 'pin',
      name: node.pinned ? 'Let it be moved' : 'Pin it here',
      run: () =>
        change(`${node.pinned ? 'Let go of' : 'Pin'} ${name}`, (p) =>
          changed(p, id, (n) => ({ ...n, pinned: !n.pinned || undefined })),
        ),
    },
    { id: 'out', name: 'Out of the chain', run: drop },
  )
  return acts
}

const Item = styled(GridListItem)<{ $split: boolean }>`
  width: ${(p) => (p.$split ? 86 : 80)}px; cursor: pointer; outline: none; min-width: 0;
  display: flex; flex-direction: column;
  .box { flex: 1; }
  &[data-selected] .box { box-shadow: 0 0 0 2px var(--bg), 0 0 0 4px var(--focus); }
  &[data-focus-visible] .box { outline: 2px solid var(--text); outline-offset: 5px; }
  &[data-drop-target] .box { outline: 3px dashed var(--focus); outline-offset: 2px; }
  &[data-dragging] { opacity: 0.5; }
`
const Box = styled.div<{ $on: boolean; $split: boolean; $marked: boolean }>`
  position: relative; padding: 10px 4px 6px; margin-top: 4px;
  border: ${(p) => (p.$marked ? '2px dashed var(--focus)' : `1px ${p.$split ? 'dashed' : 'solid'} ${p.$on ? 'var(--lit)' : 'var(--line)'}`)};
  background: ${(p) => (p.$on ? 'var(--lit)' : p.$split ? 'transparent' : 'var(--raised)')}; color: ${(p) => (p.$on ? 'var(--onLit)' : 'var(--muted)')};
  display: grid; justify-items: center; align-content: start; gap: 2px; min-height: 92px;
  &::before { content: ''; position: absolute; left: 50%; top: -10px; height: 9px; width: 2px; margin-left: -1px; background: var(--wire); }
  b { font: 600 16px/1.1 var(--face-label); max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  small { font: 400 12px/1.2 var(--face-figures); max-width: 100%; overflow: hidden; text-overflow: ellipsis; text-align: center; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; }
  i { font: 600 13px/1.1 var(--face-label); max-width: 100%; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
  button { color: inherit; }
`
const Grip = styled(
  AriaButton,
)`position: absolute; left: 0; top: 0; border: 0; background: none; padding: 5px 4px; min-width: 24px; cursor: grab; opacity: 0.75;`
const Behind = styled.span`display: block; margin: 0 0 0 8px; padding: 3px 4px; border: 1px solid var(--line); border-top: 0; background: var(--raised); color: var(--muted); font: 600 12px/1.2 var(--face-label); text-align: center; overflow: hidden; text-overflow: ellipsis; white-space: nowrap;`
const Pin = styled.em`position: absolute; bottom: -8px; font: 600 12px/1 var(--face-label); background: var(--bg); color: var(--text); padding: 0 4px;`
const Corner = styled.span`
  position: absolute; right: -1px; top: -1px;
  button { min-width: 24px; min-height: 24px; padding: 2px 3px; background: none; border: 0; }
`

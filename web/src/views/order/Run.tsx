import { useMemo, useState } from 'react'
import { GridList } from 'react-aria-components/GridList'
import { type DragAndDropOptions, useDragAndDrop } from 'react-aria-components/useDragAndDrop'
import styled from 'styled-components'
import { freshId } from '../../api/client'
import type { PathNode } from '../../api/types'
import { usePlace } from '../../state/place'
import { type Latest, useLatest } from '../../ui/useLatest'
import { useSame } from '../../ui/useSame'
import { find, moved, type Spot, splitAround } from './chain'
import { actsOf, cardOf, Faces, NodeCard, type Place } from './StopCard'
import { type Chain, useChain } from './useChain'
import { PlainWire } from './Wire'

const type = 'application/x-envex-stop'

/** Stops one after the other, the last perhaps the head of a split. They are moved by drag, by
 * keyboard from their grip, or by their menu; one dropped on another stands beside it. */
export function Run(p: { label: string; nodes: PathNode[]; end: Spot; empty: string; wired: boolean }) {
  const chain = useChain()
  const where = usePlace()
  const cards = useSame(p.nodes.map((node) => cardOf(node, chain, where)))
  const places = useSame(cards.map((c) => ({ id: c.id, name: c.name, split: Boolean(c.node.split) })))
  const faces = useMemo(() => new Map(cards.map((c) => [c.id, c])), [cards])
  // What is dropped or chosen from a menu is done to the chain as it is then: cards need not be drawn anew for it.
  const { pick, picked, preview } = chain
  const latest = useLatest({ chain, end: p.end })
  const [acts] = useState(() => (node: PathNode) => actsOf(latest.now().chain, node))
  const [drops] = useState(() => {
    const moving = dropsOn(latest)
    return { moving, still: { ...moving, isDisabled: true } }
  })
  const { dragAndDropHooks } = useDragAndDrop(preview ? drops.still : drops.moving)
  return (
    <Faces value={faces}>
      <Grid
        aria-label={p.label}
        // The list draws its cards after itself: it keeps their place.
        style={places.length > 0 ? { minHeight: 110 } : undefined}
        items={places}
        layout="grid"
        keyboardNavigationBehavior="tab"
        selectionMode="single"
        selectionBehavior="replace"
        disallowEmptySelection
        selectedKeys={picked && places.some((i) => i.id === picked) ? [picked] : []}
        onSelectionChange={(keys) => keys !== 'all' && pick([...keys].map(String)[0])}
        dragAndDropHooks={dragAndDropHooks}
        renderEmptyState={() => (
          <Empty>
            {p.wired && <PlainWire />}
            <span>{p.empty}</span>
          </Empty>
        )}
      >
        {(place: Place) => <NodeCard place={place} acts={acts} />}
      </Grid>
    </Faces>
  )
}

/** What happens when stops are dropped on a run of the chain. */
function dropsOn(latest: Latest<{ chain: Chain; end: Spot }>): DragAndDropOptions {
  const place = (keys: Iterable<string>, target: string, after: boolean) => {
    for (const key of keys)
      if (key !== target) latest.now().chain.move(key, after ? { after: target } : { before: target })
  }
  const beside = (keys: string[], target: string) => {
    const { chain } = latest.now()
    const key = keys[0]
    if (!key || key === target) return
    const split = find(chain.path, target)?.split
    const made = freshId()
    chain.change(`Put ${chain.name(key)} beside ${chain.name(target)}`, (path) =>
      split
        ? moved(withLane(path, target), key, { split: target, lane: (split.lanes ?? []).length })
        : splitAround(path, target, made, key),
    )
  }
  return {
    getItems: (keys) => [...keys].map((k) => ({ [type]: String(k), 'text/plain': String(k) })),
    acceptedDragTypes: [type],
    getDropOperation: () => 'move',
    onReorder: (e) => place([...e.keys].map(String), String(e.target.key), e.target.dropPosition === 'after'),
    onInsert: (e) =>
      void dropped(e.items).then((keys) =>
        place(keys, String(e.target.key), e.target.dropPosition === 'after'),
      ),
    onItemDrop: (e) => void dropped(e.items).then((keys) => beside(keys, String(e.target.key))),
    onRootDrop: (e) =>
      void dropped(e.items).then((keys) => {
        for (const k of keys) latest.now().chain.move(k, latest.now().end)
      }),
  }
}

/** The path with one more lane for a split, where it takes one. */
function withLane(path: PathNode[], id: string): PathNode[] {
  return path.map((n) => ({
    ...n,
    ...(n.split && {
      split: {
        ...n.split,
        lanes: [
          ...(n.split.lanes ?? []).map((l) => ({ ...l, nodes: withLane(l.nodes ?? [], id) })),
          ...(n.split.id === id ? [{}] : []),
        ],
      },
    }),
  }))
}

async function dropped(items: { kind: string }[]): Promise<string[]> {
  const texts = items.flatMap((i) =>
    i.kind === 'text' ? [(i as unknown as { getText: (t: string) => Promise<string> }).getText(type)] : [],
  )
  return Promise.all(texts)
}

const Grid = styled(GridList)`
  display: flex; flex-wrap: wrap; gap: 8px 6px; outline-offset: 4px; min-width: 26px; min-height: 40px; align-content: flex-start;
  &[data-drop-target] { background: var(--panel); box-shadow: 0 0 0 2px var(--focus); }
  .react-aria-DropIndicator { width: 4px; margin: 0 -5px; background: transparent; }
  .react-aria-DropIndicator[data-drop-target] { background: var(--focus); }
` as unknown as typeof GridList
const Empty = styled.span`
  color: var(--muted); font-size: 13px; display: block;
  & > span { display: block; padding: 6px 8px 0 0; }
`

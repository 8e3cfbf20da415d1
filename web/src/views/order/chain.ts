import { values } from '../../api/plan'
import type { Gear, Lane, PathNode, Split, WholePlan } from '../../api/types'

/** A stop of the chain with what its card needs. */
export interface Stop {
  key: string
  gear: Gear
  name: string
  effect: string
}

const anyAmp: Gear = {
  id: 'any-amp',
  name: 'Any amp',
  kind: 'amp',
  blocks: [
    { id: 'preamp', name: 'preamp', effect: 'preamp', bypass: 'always' },
    { id: 'power', name: 'power', effect: 'power', bypass: 'always' },
  ],
}

/** What a node of the path goes by: a stop by its key, a split by its id. */
export const idOf = (n: PathNode): string => n.split?.id ?? n.stop ?? ''

export const lanesOf = (s: Split): Lane[] => s.lanes ?? []

/** Looks stops up by key. */
export function stopsOf(plan: WholePlan): Map<string, Stop> {
  const found = new Map<string, Stop>()
  for (const g of values(plan, 'gear'))
    for (const b of g.blocks ?? []) {
      const name = (g.blocks?.length ?? 0) > 1 ? `${g.name} ${b.name}` : g.name
      found.set(`${g.id}/${b.id}`, { key: `${g.id}/${b.id}`, gear: g, name, effect: b.effect })
    }
  // The amp of which nothing is known stands in chains of destinations and in no list of gear.
  for (const effect of ['preamp', 'power'])
    found.set(`any-amp/${effect}`, {
      key: `any-amp/${effect}`,
      gear: anyAmp,
      name: `Any amp ${effect}`,
      effect,
    })
  return found
}

/** Every node of a path, those of lanes included, in signal order. */
export function flat(path: PathNode[]): PathNode[] {
  return path.flatMap((n) => [n, ...(n.split ? lanesOf(n.split).flatMap((l) => flat(l.nodes ?? [])) : [])])
}

/** Every block that a path uses, what divides and joins lanes included. */
export function keysOf(path: PathNode[]): string[] {
  return flat(path).flatMap((n) =>
    n.split
      ? [n.split.kind === 'tap' ? '' : (n.split.from ?? ''), n.split.to ?? ''].filter(Boolean)
      : [n.stop ?? ''],
  )
}

export const find = (path: PathNode[], id: string): PathNode | undefined =>
  flat(path).find((n) => idOf(n) === id)

/** Where something is put: before or after a node, or at the end of a lane or of the path. */
export type Spot = { before: string } | { after: string } | { split: string; lane: number } | 'end'

/** A path with every list of nodes in it changed, the main line and the lanes alike. */
function everywhere(
  path: PathNode[],
  change: (nodes: PathNode[], split?: string, lane?: number) => PathNode[],
  split?: string,
  lane?: number,
): PathNode[] {
  return change(
    path.map((n) =>
      n.split
        ? {
            ...n,
            split: {
              ...n.split,
              lanes: lanesOf(n.split).map((l, i) => ({
                ...l,
                nodes: everywhere(l.nodes ?? [], change, n.split?.id, i),
              })),
            },
          }
        : n,
    ),
    split,
    lane,
  )
}

export const without = (path: PathNode[], drop: (n: PathNode) => boolean): PathNode[] =>
  everywhere(path, (nodes) => nodes.filter((n) => !drop(n)))

/** A path with nodes put somewhere; unchanged where there is no such place. */
export function put(path: PathNode[], nodes: PathNode[], spot: Spot): PathNode[] {
  if (spot === 'end') return [...path, ...nodes]
  return everywhere(path, (list, split, lane) => {
    if ('split' in spot) return split === spot.split && lane === spot.lane ? [...list, ...nodes] : list
    const at = list.findIndex((n) => idOf(n) === ('before' in spot ? spot.before : spot.after))
    if (at < 0) return list
    const to = 'before' in spot ? at : at + 1
    return [...list.slice(0, to), ...nodes, ...list.slice(to)]
  })
}

/** A path with one node moved, with all that is in it. A split cannot go into itself. */
export function moved(path: PathNode[], id: string, spot: Spot): PathNode[] {
  const node = find(path, id)
  const target =
    spot === 'end' ? undefined : 'split' in spot ? spot.split : 'before' in spot ? spot.before : spot.after
  if (!node || target === id || (target && find([node], target))) return path
  return put(
    without(path, (n) => idOf(n) === id),
    [node],
    spot,
  )
}

/** A path with one node changed. */
export const changed = (path: PathNode[], id: string, update: (n: PathNode) => PathNode): PathNode[] =>
  everywhere(path, (nodes) => nodes.map((n) => (idOf(n) === id ? update(n) : n)))

/** A path with one split changed. */
export const withSplit = (path: PathNode[], id: string, update: (s: Split) => Split): PathNode[] =>
  changed(path, id, (n) => (n.split ? { ...n, split: update(n.split) } : n))

/** One step earlier or later in its own line. */
export function stepped(path: PathNode[], id: string, by: number): PathNode[] {
  return everywhere(path, (nodes) => {
    const from = nodes.findIndex((n) => idOf(n) === id)
    const to = from + by
    const node = nodes[from]
    if (!node || to < 0 || to >= nodes.length) return nodes
    const rest = nodes.filter((n) => n !== node)
    return [...rest.slice(0, to), node, ...rest.slice(to)]
  })
}

/** A path with a node made the first lane of a split, beside another that is moved into the
 * second, or beside an empty one. */
export function splitAround(path: PathNode[], id: string, splitId: string, beside?: string): PathNode[] {
  const other = beside ? find(path, beside) : undefined
  if (other && find([other], id)) return path
  const left = other ? without(path, (n) => n === other || idOf(n) === beside) : path
  return changed(left, id, (n) => ({
    split: {
      id: splitId,
      kind: 'copy',
      lanes: [{ nodes: [n] }, { nodes: other ? [other] : [] }],
      join: 'sum',
    },
  }))
}

/** A path with a split undone: the stops of its lanes stand one after the other. */
export function inLine(path: PathNode[], id: string): PathNode[] {
  return everywhere(path, (nodes) =>
    nodes.flatMap((n) => (n.split?.id === id ? lanesOf(n.split).flatMap((l) => l.nodes ?? []) : [n])),
  )
}

/** The split whose lane a node stands in. */
export function around(path: PathNode[], id: string): { split: string; lane: number } | undefined {
  for (const n of flat(path)) {
    const lane = n.split ? lanesOf(n.split).findIndex((l) => (l.nodes ?? []).some((x) => idOf(x) === id)) : -1
    if (n.split && lane >= 0) return { split: n.split.id, lane }
  }
  return undefined
}

/** What a lane is called until the server has said what it is: its name, or its number. */
export const laneName = (s: Split, lane: number): string => lanesOf(s)[lane]?.name || `lane ${lane + 1}`

/** Blocks that are owned and not in the path. An amp comes in whole. */
export function spare(plan: WholePlan, path: PathNode[]): { id: string; name: string; nodes: PathNode[] }[] {
  const stood = new Set(keysOf(path))
  return values(plan, 'gear').flatMap((g) => {
    const blocks = (g.blocks ?? []).filter(
      (b) => !stood.has(`${g.id}/${b.id}`) && b.effect !== 'splitter' && b.effect !== 'mixer',
    )
    if (blocks.length === 0) return []
    const node = (b: { id: string }): PathNode => ({ stop: `${g.id}/${b.id}` })
    if (g.kind === 'amp') {
      return blocks.length === (g.blocks ?? []).length
        ? [{ id: g.id, name: g.name, nodes: blocks.map(node) }]
        : []
    }
    return blocks.map((b) => ({
      id: `${g.id}/${b.id}`,
      name: (g.blocks?.length ?? 0) > 1 ? `${g.name} ${b.name}` : g.name,
      nodes: [node(b)],
    }))
  })
}

export type Zone = 'front' | 'loop' | 'out'

/** What each node of a path is in, with respect to the amp: what stands before an amp's preamp is in front of it, between
 * preamp and power in its loop, the power section and what follows out. A lane begins where its split is, and what follows a
 * join is where the first lane has come to. The server goes by the same; this is what is drawn before it has answered. */
export function zonesOf(path: PathNode[], stops: Map<string, Stop>): Map<string, Zone> {
  const zones = new Map<string, Zone>()
  const along = (nodes: PathNode[], from: Zone): Zone => {
    let zone = from
    for (const n of nodes) {
      const stop = stops.get(n.stop ?? '')
      if (stop?.effect === 'power') zone = 'out'
      zones.set(idOf(n), zone)
      if (stop?.effect === 'preamp' && stop.gear.kind === 'amp' && zone === 'front') zone = 'loop'
      if (n.split) {
        const ends = lanesOf(n.split).map((l) => along(l.nodes ?? [], zone))
        if (n.split.kind !== 'tap') zone = ends[0] ?? zone
      }
    }
    return zone
  }
  along(path, 'front')
  return zones
}

/** The main line laid out in rows, one for each zone. */
export function rowsOf(path: PathNode[], stops: Map<string, Stop>): Record<Zone, PathNode[]> {
  const zones = zonesOf(path, stops)
  const rows = { front: [] as PathNode[], loop: [] as PathNode[], out: [] as PathNode[] }
  for (const n of path) rows[zones.get(idOf(n)) ?? 'front'].push(n)
  return rows
}

/** The lists that are shown next to each other: stops up to and with a split, then the rest. */
export function runsOf(nodes: PathNode[]): PathNode[][] {
  const runs: PathNode[][] = [[]]
  for (const n of nodes) {
    runs.at(-1)?.push(n)
    if (n.split) runs.push([])
  }
  return runs
}

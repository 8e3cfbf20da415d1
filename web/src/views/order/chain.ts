import { values } from '../../api/plan'
import type { Gear, Rig, WholePlan } from '../../api/types'

export interface Stop {
  key: string
  gear: Gear
  name: string
  effect: string
  zone: string
  pinned: boolean
}

/** The stops of a rig in order, with what the cards need. */
export function stopsOf(plan: WholePlan, rig: Rig): Stop[] {
  const gear = new Map(values(plan, 'gear').map((g) => [g.id, g]))
  const zones = plan.zones[rig.id] ?? []
  return (rig.path ?? []).flatMap((node, i) => {
    const key = node.stop ?? ''
    const [id, block] = key.split('/')
    const g = gear.get(id ?? '')
    const b = g?.blocks?.find((x) => x.id === block)
    if (!g || !b) return []
    const name = (g.blocks?.length ?? 0) > 1 ? `${g.name} ${b.name}` : g.name
    return [{ key, gear: g, name, effect: b.effect, zone: zones[i] ?? 'front', pinned: Boolean(node.pinned) }]
  })
}

/** Blocks that are owned and not in the chain. An amp comes in whole. */
export function spare(plan: WholePlan, rig: Rig): { id: string; name: string; keys: string[] }[] {
  const stood = new Set((rig.path ?? []).map((n) => n.stop))
  return values(plan, 'gear').flatMap((g) => {
    const blocks = (g.blocks ?? []).filter((b) => !stood.has(`${g.id}/${b.id}`))
    if (blocks.length === 0) return []
    if (g.kind === 'amp') {
      return blocks.length === (g.blocks ?? []).length
        ? [{ id: g.id, name: g.name, keys: blocks.map((b) => `${g.id}/${b.id}`) }]
        : []
    }
    return blocks.map((b) => ({
      id: `${g.id}/${b.id}`,
      name: (g.blocks?.length ?? 0) > 1 ? `${g.name} ${b.name}` : g.name,
      keys: [`${g.id}/${b.id}`],
    }))
  })
}

/** The path with a stop put before another, or at the end of a zone. */
export function placed(
  rig: Rig,
  keys: string[],
  before: string | undefined,
  zones: string[],
  zone: string,
): Rig {
  const path = rig.path ?? []
  const taken = path.filter((n) => keys.includes(n.stop ?? ''))
  const nodes = taken.length > 0 ? taken : keys.map((stop) => ({ stop }))
  const left = path.filter((n) => !keys.includes(n.stop ?? ''))
  const zoneOf = new Map(path.map((n, i) => [n.stop, zones[i]]))
  let at = before ? left.findIndex((n) => n.stop === before) : -1
  if (at < 0) {
    const last = left.map((n) => zoneOf.get(n.stop)).lastIndexOf(zone)
    const next = left.findIndex((n) => rank(zoneOf.get(n.stop)) > rank(zone))
    at = last >= 0 ? last + 1 : next >= 0 ? next : left.length
  }
  return { ...rig, path: [...left.slice(0, at), ...nodes, ...left.slice(at)] }
}

const rank = (zone: string | undefined) => ['front', 'loop', 'out'].indexOf(zone ?? 'front')

/** The rig with the stops of its path in another order. */
export function ordered(rig: Rig, order: string[]): Rig {
  const nodes = new Map((rig.path ?? []).map((n) => [n.stop ?? '', n]))
  const next = order.flatMap((key) => nodes.get(key) ?? [])
  return next.length === nodes.size ? { ...rig, path: next } : rig
}

/** The rig with a stop pinned where it is, or let go. */
export function pinned(rig: Rig, key: string, on: boolean): Rig {
  return { ...rig, path: rig.path?.map((n) => (n.stop === key ? { ...n, pinned: on || undefined } : n)) }
}

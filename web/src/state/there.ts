import type { Destination, PathNode, Recipe, Rig } from '../api/types'

/** The rig as it stands at a destination. The chain that follows the rig's own with another
 * amp, or none, is the server's to work out; it comes with the order. */
export function there(rig: Rig, d: Destination | undefined, derived: PathNode[] | undefined): Rig {
  if (!d) return rig
  const over = d.recipes ?? []
  const own = rig.recipes ?? []
  return {
    ...rig,
    path: d.path?.length ? d.path : (derived ?? rig.path),
    base: { ...rig.base, ...d.base },
    relays: [
      ...(rig.relays ?? []).filter((l) => !d.relays?.some((x) => samePlug(x, l))),
      ...(d.relays ?? []),
    ],
    recipes: [
      ...over.filter((o) => !own.some((r) => r.id === o.id)),
      ...own.map((r) => over.find((o) => o.id === r.id) ?? r),
    ],
  }
}

type RelayLink = NonNullable<Rig['relays']>[number]

const samePlug = (a: RelayLink, b: RelayLink) => a.controller === b.controller && a.relay === b.relay

/** The rig with a relay plugged into something: at a destination where it is of the amp that stands there alone, else wherever
 * the rig plugs in; into nothing without a target. */
export function withRelay(
  rig: Rig,
  destination: string | undefined,
  plug: Pick<RelayLink, 'controller' | 'relay'>,
  target: string | undefined,
): Rig {
  const put = (list: RelayLink[] | undefined, into: string | undefined) => [
    ...(list ?? []).filter((l) => !samePlug(l, { ...plug, target: '' })),
    ...(into ? [{ ...plug, target: into }] : []),
  ]
  const d = rig.destinations?.find((x) => x.id === destination)
  const of = target?.split('/')[0]
  if (d?.amp && of === d.amp)
    return withDestination(rig, d.id, (x) => ({ ...x, relays: put(x.relays, target) }))
  const next = { ...rig, relays: put(rig.relays, target) }
  return d?.relays ? withDestination(next, d.id, (x) => ({ ...x, relays: put(x.relays, undefined) })) : next
}

const withDestination = (rig: Rig, id: string, update: (d: Destination) => Destination): Rig => ({
  ...rig,
  destinations: rig.destinations?.map((d) => (d.id === id ? update(d) : d)),
})

/** The rig with the chain changed where it is looked at: the rig's own, or the destination's,
 * which has a chain of its own from then on. */
export function withPath(
  rig: Rig,
  destination: string | undefined,
  now: PathNode[],
  update: (p: PathNode[]) => PathNode[],
): Rig {
  if (!destination) return { ...rig, path: update(rig.path ?? []) }
  return withDestination(rig, destination, (d) => ({ ...d, path: update(d.path?.length ? d.path : now) }))
}

/** The rig with the list of recipes changed that holds a recipe: the destination's, where it
 * is set apart there, or the rig's. */
export function withRecipes(
  rig: Rig,
  destination: string | undefined,
  id: string,
  update: (list: Recipe[]) => Recipe[],
): Rig {
  const d = rig.destinations?.find((x) => x.id === destination)
  if (d?.recipes?.some((r) => r.id === id))
    return withDestination(rig, d.id, (x) => ({ ...x, recipes: update(x.recipes ?? []) }))
  return { ...rig, recipes: update(rig.recipes ?? []) }
}

/** The rig with its base settings changed: at a destination those it has of its own, and those
 * of gear that is only there. */
export function withBaseAt(
  rig: Rig,
  destination: string | undefined,
  key: string,
  update: (base: Rig['base']) => Rig['base'],
): Rig {
  const d = rig.destinations?.find((x) => x.id === destination)
  const gear = key.split('/')[0]
  const inRig = rig.guitars?.includes(gear ?? '') || JSON.stringify(rig.path ?? []).includes(`"${gear}/`)
  if (d && ((d.base && key in d.base) || !inRig))
    return withDestination(rig, d.id, (x) => ({ ...x, base: update(x.base) }))
  return { ...rig, base: update(rig.base) }
}

/** The rig with a recipe set apart at a destination, to be changed there alone. */
export const apart = (rig: Rig, destination: string, recipe: Recipe): Rig =>
  withDestination(rig, destination, (d) => ({ ...d, recipes: [...(d.recipes ?? []), recipe] }))

/** The rig with a side of a school chosen. */
export const withSide = (rig: Rig, question: string, side: string): Rig => ({
  ...rig,
  schools: [...(rig.schools ?? []).filter((s) => s.question !== question), { question, side }],
})

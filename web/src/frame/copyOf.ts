import { freshId } from '../api/client'
import type { Rig } from '../api/types'

/** A copy of a rig with an id of its own, and its recipes and destinations too. */
export function copyOf(rig: Rig, name: string): Rig {
  const fresh = new Map<string, string>()
  const renewed = <T extends { id: string }>(x: T): T => {
    const id = fresh.get(x.id) ?? freshId()
    fresh.set(x.id, id)
    return { ...x, id }
  }
  const copy = {
    ...rig,
    id: freshId(),
    name,
    recipes: rig.recipes?.map(renewed),
    destinations: rig.destinations?.map((d) => ({ ...renewed(d), recipes: d.recipes?.map(renewed) })),
  }
  const now = (id: string | undefined) => id && (fresh.get(id) ?? id)
  // What is kept of a box that is not in the chain says of which recipe, and at which destination.
  copy.swaps = rig.swaps?.map((s) => ({
    ...s,
    boxes: s.boxes?.map((b) => ({
      ...b,
      kept: b.kept && {
        ...b.kept,
        settings: b.kept.settings?.map((x) => ({
          ...x,
          recipe: now(x.recipe),
          destination: now(x.destination),
        })),
      },
    })),
  }))
  return copy
}

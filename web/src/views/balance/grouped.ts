import type { Placed, Placement } from '../../api/types'

/** Places of a boost that sound alike. */
export interface Group {
  first: Placed
  all: { place: Placed; index: number }[]
}

/** Places that are the same, since only what is linear lies between them, are one line. */
export function grouped(found: Placement): Group[] {
  const groups: Group[] = []
  found.places.forEach((place, index) => {
    const last = groups[groups.length - 1]
    if (place.same_as !== undefined && last) last.all.push({ place, index })
    else groups.push({ first: place, all: [{ place, index }] })
  })
  return groups
}

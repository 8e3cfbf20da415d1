/** The list with the picked items moved before or after the target. */
export function moved<T>(
  list: T[],
  picked: (x: T) => boolean,
  target: (x: T) => boolean,
  after: boolean,
): T[] {
  const taken = list.filter(picked)
  const left = list.filter((x) => !picked(x))
  const at = left.findIndex(target)
  if (at < 0) return list
  left.splice(after ? at + 1 : at, 0, ...taken)
  return left
}

/** The list with one item moved so many places on, and no further than its ends. */
export function nudged<T extends { id: string }>(all: T[], id: string, by: number): T[] {
  const from = all.findIndex((x) => x.id === id)
  const it = all[from]
  const next = all.filter((x) => x.id !== id)
  if (it) next.splice(Math.max(0, Math.min(next.length, from + by)), 0, it)
  return next
}

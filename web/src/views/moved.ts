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

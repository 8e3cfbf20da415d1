/** The numbers of a list such as "9, 18"; undefined where a part of it is none. */
export function numbers(text: string): number[] | undefined {
  const list = text
    .split(/[\s,;/]+/)
    .filter(Boolean)
    .map(Number)
  return list.every(Number.isFinite) ? list : undefined
}

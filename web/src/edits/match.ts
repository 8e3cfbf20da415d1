/** What a file can hold. An absent value is undefined. */
export type Json = string | number | boolean | null | undefined | Json[] | Tree
export interface Tree {
  [key: string]: Json
}

/** Whether a value has all that a match says: the fields of an object, the value itself otherwise. */
export function matches(value: Json, match: Json): boolean {
  if (!isTree(match)) return exact(value, match)
  if (!isTree(value)) return false
  const keys = Object.keys(match)
  return (
    keys.length > 0 &&
    keys.every((k) =>
      (match[k] ?? undefined) === undefined
        ? (value[k] ?? undefined) === undefined
        : matches(value[k], match[k]),
    )
  )
}

export const isTree = (x: Json): x is Tree => typeof x === 'object' && x !== null && !Array.isArray(x)

// Whether a key is that of a variable: an entry of a map, which is there or is not, whatever it holds.
// Fields of objects are left out of a file where they hold nothing.
export const isEntry = (key: string) => key.includes('/')

/** Whether two values are the same. */
export const exact = (a: Json, b: Json) => same(a, b, false)

/** Whether two values are the same to a reader of the file, where what is empty may be absent. */
export const alike = (a: Json, b: Json) => same(a, b, true)

function same(a: Json, b: Json, loose: boolean): boolean {
  if (a === b || (loose && isEmpty(a) && isEmpty(b))) return true
  if (Array.isArray(a))
    return Array.isArray(b) && a.length === b.length && a.every((x, i) => same(x, b[i], loose))
  if (isTree(a) && isTree(b))
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) =>
      same(a[k], b[k], loose && !isEntry(k)),
    )
  return (a ?? undefined) === (b ?? undefined)
}

function isEmpty(x: Json): boolean {
  if (x === undefined || x === null || x === false || x === '' || x === 0) return true
  if (Array.isArray(x)) return x.length === 0
  return isTree(x) && Object.entries(x).every(([k, v]) => !isEntry(k) && isEmpty(v))
}

import { alike, exact, isTree, type Json, type Tree } from './match'
import type { Op, Step } from './operations'

// What names an element of a list, by the list's name, where elements have no id.
const names: Record<string, string[]> = {
  assignments: ['gear', 'switch'],
  batteries: ['gear'],
  double_stomps: ['a', 'b'],
  held: ['switcher', 'loop'],
  leads: ['from', 'to'],
  levels: ['block'],
  map: ['target', 'control'],
  midi: ['controller', 'gear'],
  orders: ['name'],
  power: ['supply', 'output'],
  relays: ['controller', 'relay'],
  schools: ['question'],
  settled: ['finding'],
  slot_pins: ['controller', 'bank', 'slot'],
}

// Fields that hold entries by key. An absent one is an empty one.
const maps = new Set(['at', 'base', 'places', 'presets', 'programs', 'snapshots', 'values'])

/** The operations that lead from one value to another: each names what it changes by id and field,
 * and what was seen there. */
export function difference(before: unknown, after: unknown): Op[] {
  const ops: Op[] = []
  compare(before as Json, after as Json, [], ops)
  return ops
}

function compare(before: Json, after: Json, path: Step[], ops: Op[]) {
  if (exact(before, after)) return
  const name = path.findLast((s) => s.key !== undefined)?.key ?? ''
  if (Array.isArray(before) || Array.isArray(after)) {
    const [a, b] = [before ?? [], after ?? []]
    if (Array.isArray(a) && Array.isArray(b) && lists(a, b, name, path, ops)) return
  } else if (opened(before, after, path)) {
    const [a, b] = [(before ?? {}) as Tree, (after ?? {}) as Tree]
    for (const key of new Set([...Object.keys(a), ...Object.keys(b)]))
      compare(a[key], b[key], [...path, { key }], ops)
    return
  }
  ops.push({ do: 'set', path, ...given('was', before), ...given('to', after) })
}

const given = (key: string, value: Json) => (value === undefined ? {} : { [key]: value })

// Whether two values are compared by their fields: settings such as {"free": true} are one value, and
// what is not there is compared with an object only where it is a map, in which each key is a field.
function opened(before: Json, after: Json, path: Step[]): boolean {
  if (path.length === 0) return true
  if (isSetting(before) || isSetting(after)) return false
  if (isTree(before) && isTree(after)) return true
  const inMap = path.some((s) => s.key !== undefined && maps.has(s.key))
  return (
    inMap &&
    ((before === undefined && isTree(after)) ||
      (path.at(-1)?.key !== undefined &&
        maps.has(path.at(-1)?.key ?? '') &&
        after === undefined &&
        isTree(before)))
  )
}

const isSetting = (x: Json) =>
  isTree(x) && Object.keys(x).length === 1 && ('sync' in x || 'free' in x || 'unchanged' in x)

/** What names an element in its list; undefined where nothing does. */
export function nameOf(element: Json, list: string): Json {
  if (typeof element === 'string' || typeof element === 'number') return element
  if (!isTree(element)) return undefined
  if (typeof element.id === 'string') return { id: element.id }
  if (isTree(element.split) && typeof element.split.id === 'string')
    return { split: { id: element.split.id } }
  if (typeof element.stop === 'string') return { stop: element.stop }
  const fields = names[list]
  if (!fields || element[fields[0] ?? ''] === undefined) return undefined
  return Object.fromEntries(fields.map((f) => [f, element[f] ?? null]))
}

// Whether the difference of two lists could be told. Lists whose elements have no names are compared
// place by place where they are as long, and may grow at their end.
function lists(before: Json[], after: Json[], name: string, path: Step[], ops: Op[]): boolean {
  const [a, b] = [keyed(before, name), keyed(after, name)]
  if (a && b) {
    named(a, b, path, ops)
    return true
  }
  if (before.length === after.length && before.every(isTree) && after.every(isTree)) {
    for (const [i, x] of before.entries())
      compare(x, after[i], [...path, { place: i, of: before.length }], ops)
    return true
  }
  if (before.length < after.length && before.every((x, i) => alike(x, after[i]))) {
    for (const value of after.slice(before.length)) ops.push({ do: 'insert', path, value })
    return true
  }
  return false
}

type Named = Map<string, { name: Json; value: Json }>

/** Elements by their names, in order; undefined where one has none, or two have the same. */
function keyed(list: Json[], name: string): Named | undefined {
  const found: Named = new Map()
  for (const value of list) {
    const own = nameOf(value, name)
    if (own === undefined) return undefined
    found.set(JSON.stringify(own), { name: own, value })
  }
  return found.size === list.length ? found : undefined
}

function named(before: Named, after: Named, path: Step[], ops: Op[]) {
  const nameAt = (key: string | undefined) =>
    key === undefined ? undefined : (after.get(key) ?? before.get(key))?.name
  for (const [key, { name, value }] of before)
    if (!after.has(key)) ops.push({ do: 'remove', path, element: name, was: value })
  for (const [key, { name, value }] of before) {
    const next = after.get(key)
    if (next) compare(value, next.value, [...path, { match: name }], ops)
  }
  const order = [...before.keys()].filter((k) => after.has(k))
  const stays = longestRun([...after.keys()].filter((k) => before.has(k)).map((k) => order.indexOf(k)))
  const unmoved = new Set(stays.map((i) => order[i]))
  let previous: string | undefined
  for (const [key, { name, value }] of after) {
    if (!unmoved.has(key)) {
      const at = order.indexOf(key)
      const from =
        at < 0
          ? undefined
          : { ...given('after', nameAt(order[at - 1])), ...given('before', nameAt(order[at + 1])) }
      if (at >= 0) order.splice(at, 1)
      const to = previous === undefined ? 0 : order.indexOf(previous) + 1
      const place = { ...given('after', nameAt(previous)), ...given('before', nameAt(order[to])) }
      ops.push(
        from
          ? { do: 'move', path, element: name, ...place, from }
          : { do: 'insert', path, element: name, value, ...place },
      )
      order.splice(to, 0, key)
    }
    previous = key
  }
}

// The longest run of numbers that only rise: the elements of a list that stay where they are.
function longestRun(numbers: number[]): number[] {
  const best: number[][] = []
  for (const n of numbers) {
    const before = best
      .filter((r) => (r.at(-1) ?? -1) < n)
      .reduce<number[]>((a, r) => (r.length > a.length ? r : a), [])
    best.push([...before, n])
  }
  return best.reduce<number[]>((a, r) => (r.length > a.length ? r : a), [])
}

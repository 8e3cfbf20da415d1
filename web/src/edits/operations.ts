import type { components } from '../api/schema.gen'
import { alike, exact, isEntry, type Json, matches, type Tree } from './match'

export type Op = components['schemas']['Op']
export type Step = components['schemas']['Step']

/** Why an operation does not fit what is there. */
export class Conflict extends Error {}

/** The value with operations carried out on it, one after the other, as the server does it: what is
 * shown until it has answered. Throws a {@link Conflict} where one does not fit. */
export function applied<T>(value: T, ops: Op[]): T {
  let tree = value as Json
  for (const op of ops) tree = descend(tree, op, op.path)
  return tree as T
}

function descend(at: Json, op: Op, path: Step[]): Json {
  const [step, ...rest] = path
  if (!step) return inList(at, op)
  if (step.key !== undefined) return field(at, step.key, op, rest)
  const list = asList(at)
  const i = step.place !== undefined ? placed(list, step) : only(list, step.match as Json)
  if (i < 0) throw new Conflict('gone')
  return list.map((x, k) => (k === i ? descend(x, op, rest) : x))
}

function placed(list: Json[], step: Step): number {
  return step.of === list.length && (step.place ?? -1) < list.length ? (step.place ?? -1) : -1
}

function asList(at: Json): Json[] {
  if (at === undefined || at === null) return []
  if (!Array.isArray(at)) throw new Conflict('shape')
  return at
}

function field(at: Json, key: string, op: Op, rest: Step[]): Json {
  if (at !== undefined && at !== null && (typeof at !== 'object' || Array.isArray(at)))
    throw new Conflict('gone')
  const object = (at ?? {}) as Tree
  const now = object[key]
  if (rest.length === 0 && op.do === 'set') {
    if (exact(now, op.to as Json)) return object
    if (!exact(now, op.was as Json) && (isEntry(key) || !alike(now, op.was as Json)))
      throw new Conflict('changed')
    return withKey(object, key, op.to as Json)
  }
  const makesWay = rest.length === 0 ? op.do === 'insert' || op.do === 'remove' : rest[0]?.key !== undefined
  if (now === undefined && !makesWay) throw new Conflict('gone')
  const next = descend(now, op, rest)
  return now === undefined && op.do === 'remove' ? object : withKey(object, key, next)
}

function withKey(object: Tree, key: string, value: Json): Tree {
  const { [key]: _before, ...others } = object
  return value === undefined || value === null ? others : { ...object, [key]: value }
}

const thatFit = (list: Json[], match: Json) => list.flatMap((x, i) => (matches(x, match) ? [i] : []))

/** The place of the one element that fits; none where several do. */
function theOne(list: Json[], match: Json): number | undefined {
  const fits = thatFit(list, match)
  return fits.length === 1 ? fits[0] : undefined
}

function only(list: Json[], match: Json): number {
  const fits = thatFit(list, match)
  if (fits.length > 1) throw new Conflict('unclear')
  return fits[0] ?? -1
}

function inList(at: Json, op: Op): Json {
  const list = asList(at)
  const element = op.element as Json
  if (op.do === 'insert') {
    const there = element === undefined ? -1 : only(list, element)
    if (there >= 0) {
      if (alike(list[there], op.value as Json)) return list
      throw new Conflict('exists')
    }
    return list.toSpliced(between(list, op), 0, op.value as Json)
  }
  const i = only(list, element)
  if (op.do === 'remove') {
    if (i < 0) return list
    if (op.was !== undefined && !alike(list[i], op.was as Json)) throw new Conflict('changed')
    return list.toSpliced(i, 1)
  }
  if (i < 0) throw new Conflict('gone')
  const rest = list.toSpliced(i, 1)
  if (stands(rest, i - 1, op.after as Json) && stands(rest, i, op.before as Json)) return list
  const from = op.from
  if (from && !stands(rest, i - 1, from.after as Json) && !stands(rest, i, from.before as Json))
    throw new Conflict('changed')
  return rest.toSpliced(between(rest, op), 0, list[i])
}

function between(list: Json[], op: Op): number {
  if (op.before === undefined) return list.length
  if (op.after === undefined) return 0
  const after = theOne(list, op.after as Json)
  if (after !== undefined) return after + 1
  const before = theOne(list, op.before as Json)
  if (before !== undefined) return before
  throw new Conflict('gone')
}

const stands = (list: Json[], i: number, match: Json) =>
  i < 0 || i >= list.length ? match === undefined : match !== undefined && matches(list[i], match)

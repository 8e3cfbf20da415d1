import { replaceEqualDeep } from '@tanstack/react-query'
import type { components } from '../api/schema.gen'
import { type Aggregates, type Collection, listOf, type Transaction, type WholePlan } from '../api/types'
import { applied, Conflict } from './operations'

export type Amendment = components['schemas']['Amendment']

/** An aggregate with its version. */
export type Cell<K extends Collection> = { version: number; value: Aggregates[K] }

/** What the server calls the kind of a collection. */
export const kindOf = {
  gear: 'gear',
  sounds: 'sound',
  songs: 'song',
  bands: 'band',
  'set-lists': 'set_list',
  rigs: 'rig',
  shows: 'show',
} as const satisfies Record<Collection, Amendment['kind']>

const collections = Object.keys(kindOf) as Collection[]
const collectionOf = Object.fromEntries(collections.map((c) => [kindOf[c], c])) as Record<
  Amendment['kind'],
  Collection
>

/** The aggregates of one kind, with their versions. */
export function cells<K extends Collection>(plan: WholePlan, kind: K): Cell<K>[] {
  return plan[listOf[kind]] as unknown as Cell<K>[]
}

export const cellOf = <K extends Collection>(plan: WholePlan | undefined, kind: K, id: string) =>
  plan && cells(plan, kind).find((c) => c.value.id === id)

// The epoch of a server's run and how far it was, from the name of a state.
function stateOf(at: string): [string, number] {
  const dot = at.lastIndexOf('.')
  return [at.slice(0, dot), Number(at.slice(dot + 1))]
}

/** The plan with what is new in it. Undefined where the two do not fit together and all of it has to
 * be read again. */
export function withNews(plan: WholePlan | undefined, news: WholePlan): WholePlan | undefined {
  const [epoch, at] = stateOf(news.at)
  const [known, was] = plan ? stateOf(plan.at) : ['', 0]
  if (plan && epoch === known && at < was) return plan // an older answer came later
  if (!news.partial) return news
  if (!plan || epoch !== known || !news.order) return undefined
  const next = { ...plan, at: news.at, undo: news.undo, redo: news.redo }
  for (const kind of collections) {
    const list = merged(cells(plan, kind), cells(news, kind), news.order[listOf[kind]])
    if (!list) return undefined
    Object.assign(next, { [listOf[kind]]: list })
  }
  const fresh = new Set(news.gear.map((g) => g.value.id))
  const variables = [...plan.variables.filter((v) => !fresh.has(v.gear)), ...news.variables]
  if (fresh.size > 0 || next.gear.length !== plan.gear.length)
    next.variables = next.gear.flatMap((g) => variables.filter((v) => v.gear === g.value.id))
  return next
}

function merged<K extends Collection>(known: Cell<K>[], news: Cell<K>[], order: string[]) {
  if (news.length === 0 && known.length === order.length && known.every((c, i) => c.value.id === order[i]))
    return known
  const byId = new Map(known.map((c) => [c.value.id, c]))
  // What is the same in what has changed stays the same object: nothing is drawn anew for it.
  for (const c of news) byId.set(c.value.id, replaceEqualDeep(byId.get(c.value.id), c))
  const list = order.flatMap((id) => byId.get(id) ?? [])
  return list.length === order.length ? list : undefined
}

/** An edit on its way to the server. */
export interface Edit {
  key: string
  label: string
  amendments: Amendment[]
}

/** The plan as it is shown: what the server last said, with the edits on their way laid over it. */
export function withEdits(plan: WholePlan, edits: Edit[]): WholePlan {
  const shown = edits.flatMap((e) => e.amendments).reduce(amended, plan)
  const last = edits.findLast((e) => e.amendments.length > 0)
  const undo: Transaction | undefined = last && { id: 0, at: '', label: last.label, state: 'done' }
  return undo ? { ...shown, undo, redo: undefined } : shown
}

function amended(plan: WholePlan, a: Amendment): WholePlan {
  const kind = collectionOf[a.kind]
  const list = cells(plan, kind)
  const at = list.findIndex((c) => c.value.id === a.id)
  const put = (next: unknown) => ({ ...plan, [listOf[kind]]: next })
  if (a.remove) return at < 0 ? plan : put(list.toSpliced(at, 1))
  if (a.add) return at < 0 ? put([...list, { version: 0, value: a.add }]) : plan
  const cell = list[at]
  if (!cell) return plan
  try {
    return put(list.with(at, { ...cell, value: applied(cell.value, a.ops ?? []) }))
  } catch (e) {
    if (e instanceof Conflict) return plan // the server will say so
    throw e
  }
}

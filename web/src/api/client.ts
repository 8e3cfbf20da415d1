import { replaceEqualDeep } from '@tanstack/react-query'
import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

/** The typed client of the HTTP interface. */
export const client = createClient<paths>({
  baseUrl: typeof location === 'undefined' ? 'http://envex.invalid' : location.origin,
  fetch: (request) => fetch(request),
})

type ProblemBody = Partial<components['schemas']['ErrorModel']> & { conflict?: EditConflict }
export type EditConflict = components['schemas']['EditConflict']

/** A problem document, as an error with sentences for people. */
export class Problem extends Error {
  readonly status: number
  readonly details: { where: string; message: string }[]
  /** Of an edit that does not fit what is there: both values. */
  readonly conflict: EditConflict | undefined
  constructor(status: number, body: ProblemBody | undefined) {
    super(body?.detail ?? 'Envex does not answer. Is it still running?')
    this.status = status
    this.details = (body?.errors ?? []).map((e) => ({ where: e.location ?? '', message: e.message ?? '' }))
    this.conflict = body?.conflict
  }
}

// Which state of the plan an answer was computed from, which question it answers, and what the server calls it.
const origins = new WeakMap<object, { at: string; question: string; tag?: string }>()

const originOf = (data: unknown) =>
  typeof data === 'object' && data !== null ? origins.get(data) : undefined

/** The state of the plan that an answer was computed from, as a later write may name it. */
export const computedFrom = (data: unknown): string | undefined => originOf(data)?.at

/** The path and query that an answer was asked with. */
export const questionOf = (data: unknown): string | undefined => originOf(data)?.question

/** What the server calls an answer that came with a write. */
export const tagOf = (data: unknown): string | undefined => originOf(data)?.tag

/** Marks the answer to a question as computed from a state of the plan. */
export function isFrom<T>(data: T, at: string, question: string, tag?: string): T {
  if (typeof data === 'object' && data !== null) origins.set(data, { at, question, tag })
  return data
}

/** Keeps what is the same in two answers, so that nothing is drawn again for it, and what the new one
 * was computed from. */
export function shared(before: unknown, after: unknown): unknown {
  const kept = replaceEqualDeep(before, after)
  const from = originOf(after)
  return from ? isFrom(kept, from.at, from.question, from.tag) : kept
}

// What was asked, without the host.
const asked = (address: string) => address.replace(/^[a-z]+:\/\/[^/]*/, '')

/** The answer's data, or its problem thrown. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: ProblemBody; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch(() => {
    throw new Problem(0, undefined)
  })
  if (!response.ok || data === undefined) throw new Problem(response.status, error)
  const from = response.headers.get('Envex-Plan')
  return from ? isFrom(data, from, asked(response.url)) : data
}

let sending = 0

/** Whether a file or a text is on its way: who leaves the page now may lose it. */
export const isSending = () => sending > 0

/** Sends a file, or a text, as it is. */
export async function sendAsItIs<T>(path: string, kind: string, body: BodyInit): Promise<T> {
  sending += 1
  const response = await fetch(path, {
    method: 'POST',
    headers: { 'Content-Type': kind },
    body,
  })
    .catch(() => undefined)
    .finally(() => {
      sending -= 1
    })
  if (!response) throw new Problem(0, undefined)
  const said = await response.json().catch(() => undefined)
  if (!response.ok || said === undefined) throw new Problem(response.status, said)
  return said as T
}

let counter = 0

/** An opaque id that is new. */
export function freshId(): string {
  counter += 1
  const random = crypto.getRandomValues(new Uint32Array(3))
  return `x${Array.from(random, (n) => n.toString(36)).join('')}${counter.toString(36)}`.slice(0, 24)
}

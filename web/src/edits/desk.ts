import { notifyManager, type QueryClient, type QueryKey, replaceEqualDeep } from '@tanstack/react-query'
import { answer, client, computedFrom, freshId, isFrom, Problem, questionOf, tagOf } from '../api/client'
import type { components } from '../api/schema.gen'
import type { Aggregates, Collection, WholePlan } from '../api/types'
import { difference } from './difference'
import { withDifferences } from './differences'
import { Conflict, type Op } from './operations'
import { type Amendment, cellOf, type Edit, kindOf, withEdits, withNews } from './plan'

export const planKey = ['plan'] as const
const editKey = ['edit'] as const

/** What an edit came to. */
export interface Outcome {
  ok: boolean
  problem?: Problem
  answer?: Answer
}

/** What comes of text that cannot be read: nothing is sent. */
export const unread = (detail: string): Outcome => ({ ok: false, problem: new Problem(422, { detail }) })

/** The headers of a write: its own key, what of the plan is known, and what the answer it takes up was
 * computed from. */
export interface WriteHeaders {
  'Idempotency-Key': string
  'Envex-Since'?: string
  'Envex-Computed-From'?: string
  'Envex-Shown'?: string
}

/** What a write is answered with. */
export interface Answer {
  plan?: WholePlan
  transaction: number | { id: number }
  words?: string[]
}

/** A write on its way: what it does to the plan that is shown, and how it is sent. */
interface Sending extends Edit {
  from?: string
  send: (headers: WriteHeaders) => Promise<Answer>
}

/** Where the edits of this page lie on their way to the server. They go out one after the other; what
 * is shown is what the server last said with all of them laid over it. One whose answer is lost is
 * sent again under its own key until there is an answer. */
export class Desk {
  // Edits whose result is in what the server said, while their mutation ends.
  private landed = new Set<string>()
  private listeners = new Set<() => void>()
  private memo: { server: WholePlan; edits: Edit[]; shown: WholePlan } | undefined
  private syncing: Promise<void> | undefined
  private waiting = false
  private heard = ''
  private telling = false

  constructor(private readonly cache: QueryClient) {
    cache.getMutationCache().subscribe(() => this.tellSoon())
    cache.getQueryCache().subscribe((e) => e.query.queryKey[0] === planKey[0] && this.tellSoon())
  }

  /** Subscribes to what is shown, to what waits and to whether anything is on its way. */
  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  private tell() {
    for (const l of this.listeners) l()
  }

  // With what queries have to tell, so that all of it is drawn at once.
  private tellSoon() {
    if (this.telling) return
    this.telling = true
    notifyManager.schedule(() => {
      this.telling = false
      this.tell()
    })
  }

  private get server(): WholePlan | undefined {
    return this.cache.getQueryData<WholePlan>(planKey)
  }

  private get mutations() {
    return this.cache.getMutationCache().findAll({ mutationKey: editKey, status: 'pending' })
  }

  /** The edits that the server has not answered yet, the first pressed first. */
  get pending(): Edit[] {
    return this.mutations.map((m) => m.state.variables as Sending).filter((e) => !this.landed.has(e.key))
  }

  /** How many edits wait because the server does not answer; 0 while it does. */
  stuck = () => (this.waiting ? this.pending.length : 0)

  /** Whether nothing is on its way. */
  isSettled = () => this.mutations.length === 0

  /** The plan as it is shown. */
  shown = (): WholePlan | undefined => {
    const server = this.server
    if (!server) return undefined
    const edits = this.pending
    const memo = this.memo
    if (
      memo?.server === server &&
      memo.edits.length === edits.length &&
      memo.edits.every((e, i) => e === edits[i])
    )
      return memo.shown
    // What the server answers is nearly always what was shown already: then it stays the same things.
    const next = edits.length === 0 ? server : withEdits(server, edits)
    const shown = memo ? (replaceEqualDeep(memo.shown, next) as WholePlan) : next
    this.memo = { server, edits, shown }
    return shown
  }

  /** Takes in what an answer said of the plan. */
  private async absorb(news: WholePlan | undefined) {
    if (!news) return this.sync()
    const { answers, ...plan } = news
    const next = withNews(this.server, plan)
    if (next) this.cache.setQueryData(planKey, next)
    else await this.readAll()
    if (answers) await this.answered(answers)
  }

  /** Takes in answers to what is shown. */
  private async answered(answers: components['schemas']['Answer'][]) {
    const byQuestion = new Map(answers.map((a) => [a.question, a]))
    const answered = this.computed().flatMap((q) => {
      const a = byQuestion.get(questionOf(q.state.data) ?? '')
      const body =
        a && (a.since === undefined ? a.body : withDifferences(q.state.data, a.since, a.changed ?? []))
      return a && body !== undefined ? [{ q, data: isFrom(body, a.at, a.question, a.tag) }] : []
    })
    // An older answer that is still on its way must not come after.
    await Promise.all(
      answered.map(({ q }) => this.cache.cancelQueries({ queryKey: q.queryKey, exact: true })),
    )
    notifyManager.batch(() => {
      for (const { q, data } of answered) this.cache.setQueryData(q.queryKey, data)
    })
  }

  /** What is computed from the plan and shown. */
  private computed() {
    return this.cache.getQueryCache().findAll({ type: 'active', predicate: isComputed })
  }

  /** What the answer to a write is to bring, as it is asked: nothing while more edits wait for their turn. */
  private questions(s: Sending): string[] {
    if (this.pending.at(-1) !== s) return []
    return this.computed().flatMap(
      (q) => (q.queryKey[0] === 'work' ? [] : known(q.state.data)), // that takes its time, and is asked for by itself
    )
  }

  private async readAll() {
    const whole = await answer(client.GET('/api/plan'))
    this.cache.setQueryData(planKey, (known: WholePlan | undefined) => withNews(known, whole) ?? whole)
  }

  /** Reads what is new in the plan. */
  sync(): Promise<void> {
    this.syncing ??= this.read().finally(() => {
      this.syncing = undefined
    })
    return this.syncing
  }

  private async read() {
    const known = this.server
    const news = await answer(client.GET('/api/plan', { params: { query: { since: known?.at } } }))
    const next = withNews(known, news)
    if (next) this.cache.setQueryData(planKey, next)
    else await this.readAll()
  }

  /** Hears that the plan has come to a state; reads it unless it is known. */
  async hear(at: string) {
    this.heard = at
    if (this.isSettled()) await this.follow()
  }

  private async follow() {
    if (!this.server || !this.heard || this.server.at === this.heard) return
    await this.sync()
    await this.refresh()
  }

  /** Asks everything that was computed from the plan anew. A first question that is still on its way was
   * asked of an older plan and is dropped: it would answer that something new is not there. */
  refresh() {
    const now = this.server?.at
    const computed = {
      predicate: (q: { queryKey: QueryKey; state: { data: unknown } }) =>
        isComputed(q) && (now === undefined || computedFrom(q.state.data) !== now),
    }
    for (const q of this.cache.getQueryCache().findAll(computed))
      if (q.state.data === undefined) void q.cancel({ silent: true })
    return this.cache.invalidateQueries(computed)
  }

  /** Sends a write when it is its turn, and takes its answer in. */
  async write(edit: Omit<Sending, 'key'>): Promise<Outcome> {
    const sending: Sending = { ...edit, key: freshId() }
    const mutation = this.cache.getMutationCache().build<Answer, Error, Sending, unknown>(this.cache, {
      mutationKey: [...editKey],
      scope: { id: 'plan' },
      networkMode: 'always',
      gcTime: 0,
      mutationFn: async (s) => {
        const done = await this.delivered(s)
        this.landed.add(s.key)
        await this.absorb(done.plan).catch(() => undefined) // it was done; what is new is heard of later
        return done
      },
    })
    const running = mutation.execute(sending)
    this.tell()
    try {
      return { ok: true, answer: await running }
    } catch (e) {
      const problem = e instanceof Problem ? e : new Problem(0, undefined)
      await this.sync().catch(() => undefined)
      return { ok: false, problem }
    } finally {
      this.landed.delete(sending.key)
      if (this.isSettled()) {
        void this.refresh()
        void this.follow().catch(() => undefined) // it is heard of again when the stream comes back
      }
    }
  }

  // Sent again and again under the same key while no answer comes, so that it happens once.
  private async delivered(s: Sending): Promise<Answer> {
    for (let tries = 0; ; tries += 1) {
      try {
        return await s.send({
          'Idempotency-Key': s.key,
          'Envex-Since': this.server?.at ?? 'nothing',
          ...(s.from && { 'Envex-Computed-From': s.from }),
          ...shownIn(this.questions(s)),
        })
      } catch (e) {
        if (!(e instanceof Problem) || e.status !== 0) throw e
        this.wait(tries > 0)
        await new Promise((done) => setTimeout(done, Math.min(3000, 200 * 2 ** tries)))
      } finally {
        if (tries > 0) this.wait(false)
      }
    }
  }

  private wait(on: boolean) {
    if (this.waiting === on) return
    this.waiting = on
    this.tell()
  }

  /** Sends amendments of the plan, which show at once. */
  amend(label: string, amendments: Amendment[], from?: string): Promise<Outcome> {
    const body = { label: label.slice(0, 200), edits: amendments }
    return this.write({
      label,
      amendments,
      from,
      send: (header) => answer(client.POST('/api/operations', { params: { header }, body })),
    })
  }

  /** The operations that an update of a thing, as it is shown at this moment, comes to; undefined where
   * there is no such thing, or no such thing in it. */
  operations<K extends Collection>(
    kind: K,
    id: string,
    update: (value: Aggregates[K]) => Aggregates[K],
  ): Op[] | undefined {
    const cell = cellOf(this.shown(), kind, id)
    if (!cell) return undefined
    try {
      return difference(cell.value, updated(cell.value, update))
    } catch (e) {
      if (e instanceof Conflict) return undefined // what it changes has gone from it
      throw e
    }
  }

  /** Changes one thing as it is shown at this moment. The update is asked once, here: what it leads to
   * goes out as operations that name what they change and what was seen there. */
  change<K extends Collection>(
    kind: K,
    id: string,
    label: string,
    update: (value: Aggregates[K]) => Aggregates[K],
    from?: string,
  ): Promise<Outcome> {
    const ops = this.operations(kind, id, update)
    if (!ops) {
      const detail = `Not done: ${label}. What it changes was removed elsewhere meanwhile.`
      return Promise.resolve({ ok: false, problem: new Problem(409, { detail }) })
    }
    if (ops.length === 0) return Promise.resolve({ ok: true })
    return this.amend(label, [{ kind: kindOf[kind], id, ops }], from)
  }

  /** Undoes or redoes. Without a number it is what the button shows at this moment: with edits on their
   * way, what the last of them leads to. */
  turn(act: 'undo' | 'redo', transaction?: number): Promise<Outcome> {
    const before = this.mutations.at(-1)
    const seen = this.server?.[act]?.id
    const target = () => {
      if (transaction) return transaction
      if (!before) return seen
      const done = (before.state.data as Answer | undefined)?.transaction
      return act === 'undo' && typeof done === 'number' && done > 0 ? done : this.server?.[act]?.id
    }
    return this.write({
      label: act === 'undo' ? 'Undo' : 'Redo',
      amendments: [],
      send: (header) => {
        const id = target()
        if (!id) return Promise.resolve({ transaction: 0 })
        return answer(client.POST(`/api/${act}`, { params: { header }, body: { transaction: id } }))
      },
    })
  }
}

// A question, and what the server calls the answer that is here.
const known = (data: unknown) => {
  const question = questionOf(data)
  const tag = tagOf(data)
  return question === undefined ? [] : [tag ? `${question}#${tag}` : question]
}

const shownIn = (questions: string[]) => (questions.length > 0 ? { 'Envex-Shown': questions.join(' ') } : {})

// Queries whose answers do not depend on the plan.
const lasting = new Set([
  'plan',
  'kinds',
  'effects',
  'feet',
  'notes',
  'sheets',
  'session',
  'devices',
  'condition',
  'copies',
  'columns',
])

const isComputed = (q: { queryKey: QueryKey }) => !lasting.has(String(q.queryKey[0]))

/** What an update makes of a value. In development it is asked twice, on a value that cannot be
 * written to: one that answers differently, or changes what it is given, is a mistake. */
export function updated<T>(value: T, update: (value: T) => T, checked = import.meta.env.DEV): T {
  if (!checked) return update(value)
  const next = update(frozen(value))
  if (JSON.stringify(next) !== JSON.stringify(update(frozen(value))))
    throw new Error('an edit must give the same result when repeated: make ids before it starts')
  return next
}

function frozen<T>(value: T): T {
  const copy = structuredClone(value)
  const freeze = (x: unknown) => {
    if (typeof x !== 'object' || x === null) return
    Object.freeze(x)
    for (const inner of Object.values(x)) freeze(inner)
  }
  freeze(copy)
  return copy
}

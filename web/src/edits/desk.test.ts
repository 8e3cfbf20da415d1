import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { isFrom, shared } from '../api/client'
import type { WholePlan } from '../api/types'
import { Desk, planKey, updated } from './desk'
import { applied, Conflict } from './operations'
import type { Amendment } from './plan'

interface Song {
  id: string
  title: string
  sections: { id: string; label: string }[]
}

/** A server of one song: it applies operations to what is there, as the real one does. */
class Server {
  song: Song = { id: 't', title: 'Ferry Lights', sections: [] }
  seq = 0
  seen: string[] = []
  done = new Map<string, number>()
  log: { id: number; label: string }[] = []
  /** What happens to the next requests: their answers are lost, or they never arrive. */
  trouble: ('answer lost' | 'not arrived')[] = []
  hold: Promise<void> = Promise.resolve()
  /** The answers that go with those to writes, and the questions that came with the last write. */
  answers:
    | { question: string; body?: unknown; tag?: string; since?: string; changed?: unknown[] }[]
    | undefined
  shown: string | null = null
  /** How many writes of other pages come right after each write. */
  others = 0

  plan(): WholePlan {
    const undo = this.log.at(-1)
    return {
      at: `e.${this.seq}`,
      gear: [],
      sounds: [],
      songs: [{ version: this.seq, value: this.song }],
      bands: [],
      set_lists: [],
      rigs: [],
      shows: [],
      variables: [],
      tapes: [],
      undo: undo && { ...undo, at: '', state: 'done' },
    } as unknown as WholePlan
  }

  fetch = async (request: Request): Promise<Response> => {
    const url = new URL(request.url)
    if (request.method === 'GET') return this.json(this.plan())
    const trouble = this.trouble.shift()
    if (trouble === 'not arrived') throw new TypeError('no route')
    const key = request.headers.get('Idempotency-Key') ?? ''
    const body = await request.json()
    await this.hold
    const before = this.done.get(key)
    let refused: Response | undefined
    if (before === undefined) {
      if (url.pathname === '/api/undo') {
        this.seen.push(`undo ${body.transaction}`)
        this.log = this.log.filter((t) => t.id !== body.transaction)
        this.seq += 1
      } else refused = this.operate(body)
      if (!refused) this.done.set(key, this.seq)
    }
    if (trouble === 'answer lost') throw new TypeError('no answer')
    this.shown = request.headers.get('Envex-Shown')
    const answers = this.answers?.map((a) => ({ ...a, at: `e.${this.seq}` }))
    const plan = { ...this.plan(), answers }
    const answer = this.json({ transaction: this.done.get(key), changed: ['t'], plan })
    this.seq += this.others
    return refused ?? answer
  }

  private operate(body: { label: string; edits: Amendment[] }): Response | undefined {
    try {
      for (const e of body.edits) this.song = applied(this.song, e.ops ?? [])
    } catch (e) {
      if (!(e instanceof Conflict)) throw e
      return new Response(
        JSON.stringify({ status: 409, detail: 'Changed elsewhere.', conflict: { id: 't' } }),
        {
          status: 409,
          headers: { 'Content-Type': 'application/problem+json' },
        },
      )
    }
    this.seq += 1
    this.seen.push(body.label)
    this.log.push({ id: this.seq, label: body.label })
    return undefined
  }

  private json(body: unknown) {
    return new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } })
  }
}

let server: Server
let cache: QueryClient
let desk: Desk

beforeEach(() => {
  vi.useFakeTimers({ shouldAdvanceTime: true, advanceTimeDelta: 50 })
  server = new Server()
  vi.stubGlobal('fetch', server.fetch)
  cache = new QueryClient({ defaultOptions: { queries: { structuralSharing: shared } } })
  cache.setQueryData(planKey, server.plan())
  desk = new Desk(cache)
})

afterEach(() => {
  vi.unstubAllGlobals()
  vi.useRealTimers()
})

const title = () => desk.shown()?.songs[0]?.value.title
const retitle = (to: string) => desk.change('songs', 't', `Title ${to}`, (s) => ({ ...s, title: to }))

describe('the desk', () => {
  it('shows an edit at once, and the next on top of it', async () => {
    const one = retitle('One')
    expect(title()).toBe('One')
    const two = retitle('Two')
    expect(title()).toBe('Two')
    expect(desk.isSettled()).toBe(false)
    expect((await one).ok && (await two).ok).toBe(true)
    expect(server.song.title).toBe('Two')
    expect(desk.isSettled()).toBe(true)
    expect(server.seen).toEqual(['Title One', 'Title Two'])
  })

  it('sends nothing where nothing changes', async () => {
    expect(await retitle('Ferry Lights')).toEqual({ ok: true })
    expect(server.seq).toBe(0)
  })

  it('sends an edit again when its answer is lost, and it happens once', async () => {
    server.trouble = ['answer lost', 'not arrived', 'answer lost']
    const done = retitle('One')
    await vi.waitFor(() => expect(desk.stuck()).toBe(1), { timeout: 3000 })
    expect(title()).toBe('One')
    expect((await done).ok).toBe(true)
    expect(server.seen).toEqual(['Title One'])
    expect(desk.stuck()).toBe(0)
  })

  it('merges with what another page did to something else', async () => {
    server.song = { ...server.song, sections: [{ id: 'a', label: 'Intro' }] }
    server.seq = 7
    expect((await retitle('One')).ok).toBe(true)
    expect(server.song).toEqual({ id: 't', title: 'One', sections: [{ id: 'a', label: 'Intro' }] })
    expect(desk.shown()?.songs[0]?.value.sections).toHaveLength(1)
  })

  it('puts back what is refused and shows what is there', async () => {
    server.song = { ...server.song, title: 'Harbour Lights' }
    server.seq = 1
    const { ok, problem } = await retitle('One')
    expect(ok).toBe(false)
    expect(problem?.status).toBe(409)
    expect(title()).toBe('Harbour Lights')
  })

  it('lets the edits behind one that is refused go on', async () => {
    server.song = { ...server.song, title: 'Harbour Lights' }
    server.seq = 1
    const [a, b] = await Promise.all([
      retitle('One'),
      desk.change('songs', 't', 'Section', (s) => ({
        ...s,
        sections: [...s.sections, { id: 'a', label: 'Intro', sound: 'home' }],
      })),
    ])
    expect([a.ok, b.ok]).toEqual([false, true])
    expect(server.song.sections).toHaveLength(1)
  })

  it('undoes what its button shows, also when that is still on its way', async () => {
    await retitle('One')
    void retitle('Two')
    const undone = desk.turn('undo')
    server.log.push({ id: 99, label: 'from another page' })
    await undone
    expect(server.seen).toEqual(['Title One', 'Title Two', 'undo 2'])
    await desk.turn('undo', 1)
    expect(server.seen.at(-1)).toBe('undo 1')
  })

  it('says when what is to be changed has gone', async () => {
    const gone = await desk.change('songs', 'nowhere', 'Title', (s) => s)
    expect(gone.ok).toBe(false)
    expect(gone.problem?.message).toBe('Not done: Title. What it changes was removed elsewhere meanwhile.')
  })

  it('hears of what other pages did', async () => {
    server.song = { ...server.song, title: 'Harbour Lights' }
    server.seq = 4
    await desk.hear('e.4')
    expect(title()).toBe('Harbour Lights')
  })

  it('hears of it after its own edits, when they are on their way', async () => {
    let go = () => {}
    server.hold = new Promise((done) => {
      go = done
    })
    const one = retitle('One')
    await desk.hear('e.9')
    expect(title()).toBe('One')
    server.others = 8
    go()
    await one
    await vi.waitFor(() => expect(desk.shown()?.at).toBe('e.9'))
  })
})

describe('an answer that was asked for before what it is about was there', () => {
  it('is asked for again, and the later answer stays', async () => {
    let known = false
    const held: (() => void)[] = []
    const ask = async () => {
      const there = known
      if (!there) await new Promise<void>((done) => held.push(done))
      if (!there) throw new Error('no such set list')
      return '1 not set yet'
    }
    const observer = new QueryObserver(cache, { queryKey: ['reach', 'new'], queryFn: ask, retry: false })
    const stop = observer.subscribe(() => undefined)
    await vi.waitFor(() => expect(held).toHaveLength(1))
    known = true
    void desk.refresh()
    for (const answerIt of held) answerIt()
    await vi.waitFor(() => expect(observer.getCurrentResult().data).toBe('1 not set yet'))
    stop()
  })
})

describe('the answers that come with an edit', () => {
  const [reach, order] = ['/api/reach?rig=long', '/api/order?rig=long']

  /** Shows the answer to a question. */
  const show = (question: string, value: string) => {
    const ask = vi.fn(async () => isFrom({ value }, `e.${server.seq}`, question))
    const stop = new QueryObserver(cache, { queryKey: [question], queryFn: ask }).subscribe(() => undefined)
    return { ask, stop, value: () => cache.getQueryData<{ value: string }>([question])?.value }
  }

  it('are there with it, and are not asked for again', async () => {
    const [a, b] = [show(reach, 'reach'), show(order, 'order')]
    await vi.waitFor(() => expect([a.value(), b.value()]).toEqual(['reach', 'order']))
    server.answers = [{ question: reach, body: { value: 'new reach' } }]
    expect((await retitle('One')).ok).toBe(true)
    expect(server.shown).toBe(`${reach} ${order}`)
    expect(a.value()).toBe('new reach')
    await vi.waitFor(() => expect(b.ask, 'which was not told').toHaveBeenCalledTimes(2))
    expect(a.ask).toHaveBeenCalledTimes(1)
    expect(desk.shown()).not.toHaveProperty('answers')
    a.stop()
    b.stop()
  })

  it('are put together from what is here and what became different', async () => {
    const [a, b] = [show(reach, 'reach'), show(order, 'order')]
    await vi.waitFor(() => expect([a.value(), b.value()]).toEqual(['reach', 'order']))
    server.answers = [
      { question: reach, tag: 'r1', body: { value: 'one' } },
      { question: order, tag: 'o1', body: { value: 'order' } },
    ]
    await retitle('One')
    const changed = [{ field: 'value', to: 'other' }]
    server.answers = [
      { question: reach, tag: 'r2', since: 'r1', changed },
      { question: order, tag: 'o3', since: 'o2', changed },
    ]
    await retitle('Two')
    expect(server.shown, 'it says what is here').toBe(`${reach}#r1 ${order}#o1`)
    expect(a.value()).toBe('other')
    await vi.waitFor(() => expect(b.ask, 'that is not here').toHaveBeenCalledTimes(2))
    expect([a.ask.mock.calls.length, b.value()]).toEqual([1, 'order'])
    a.stop()
    b.stop()
  })

  it('are not asked for while more edits wait, nor for what is not shown', async () => {
    const [a, b] = [show(reach, 'reach'), show(order, 'order')]
    await vi.waitFor(() => expect([a.value(), b.value()]).toEqual(['reach', 'order']))
    b.stop()
    let go: () => void = () => undefined
    server.hold = new Promise((done) => {
      go = done
    })
    const [one, two] = [retitle('One'), retitle('Two')]
    go()
    await one
    expect(server.shown).toBeNull()
    await two
    expect(server.shown).toBe(reach)
    a.stop()
  })

  it('are not asked of work that takes its time, which is asked for by itself', async () => {
    const a = show(reach, 'reach')
    const ask = async () => isFrom({ state: 'done' }, `e.${server.seq}`, '/api/differ?rig=long&order=x')
    const work = new QueryObserver(cache, { queryKey: ['work', '/api/differ'], queryFn: ask })
    const stop = work.subscribe(() => undefined)
    await vi.waitFor(() => expect([a.value(), work.getCurrentResult().isSuccess]).toEqual(['reach', true]))
    await retitle('One')
    expect(server.shown).toBe(reach)
    a.stop()
    stop()
  })

  it('come after an older answer that was on its way', async () => {
    const a = show(reach, 'reach')
    await vi.waitFor(() => expect(a.value()).toBe('reach'))
    let late: () => void = () => undefined
    a.ask.mockImplementationOnce(async () => {
      const at = server.seq
      await new Promise<void>((done) => {
        late = done
      })
      return isFrom({ value: 'late' }, `e.${at}`, reach)
    })
    void cache.invalidateQueries({ queryKey: [reach] })
    server.answers = [{ question: reach, body: { value: 'new reach' } }]
    await retitle('One')
    late()
    await vi.waitFor(() => expect(cache.isFetching()).toBe(0))
    expect(a.value()).toBe('new reach')
    a.stop()
  })
})

describe('an update in development', () => {
  it('is asked twice and must say the same', () => {
    let n = 0
    expect(() => updated({ id: 'a' }, (x) => ({ ...x, n: n++ }), true)).toThrow('make ids before it starts')
    expect(updated({ id: 'a' }, (x) => ({ ...x, n: 1 }), true)).toEqual({ id: 'a', n: 1 })
  })
  it('must leave what it is given', () => {
    const value = { list: [1] }
    expect(() =>
      updated(
        value,
        (x) => {
          x.list.push(2)
          return x
        },
        true,
      ),
    ).toThrow(TypeError)
    expect(value.list).toEqual([1])
  })
})

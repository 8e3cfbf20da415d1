import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { shared } from '../api/client'
import type { WholePlan } from '../api/types'
import { Desk, planKey, reachKey, updated } from './desk'
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
  /** The reach that goes with answers to writes, and what it was asked for. */
  reach: object | undefined
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
    const plan = { ...this.plan(), reach: this.reach }
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

describe('the reach that comes with an answer', () => {
  const shown = { rig: 'long', setList: 'quay', destination: undefined }
  it('is there with the edit, and is not asked for again', async () => {
    server.reach = { rig: { id: 'long' }, set_list: { id: 'quay' }, reach: { reached: 5 } }
    desk.show(shown)
    const asked = vi.fn(async () => ({ rig: { id: 'long' }, reach: { reached: 4 } }))
    const other = vi.fn(async () => 'order')
    const stops = [
      new QueryObserver(cache, {
        queryKey: reachKey(shown),
        queryFn: asked,
        staleTime: Number.POSITIVE_INFINITY,
      }),
      new QueryObserver(cache, { queryKey: ['order', 'long'], queryFn: other }),
    ].map((o) => o.subscribe(() => undefined))
    await vi.waitFor(() => expect(asked).toHaveBeenCalledTimes(1))
    await vi.waitFor(() => expect(other).toHaveBeenCalledTimes(1))
    expect((await retitle('One')).ok).toBe(true)
    expect(cache.getQueryData(reachKey(shown))).toMatchObject({ reach: { reached: 5 } })
    expect(server.shown).toBe('rig=long&set_list=quay')
    await vi.waitFor(() => expect(other).toHaveBeenCalledTimes(2))
    expect(asked).toHaveBeenCalledTimes(1)
    expect(desk.shown()).not.toHaveProperty('reach')
    for (const stop of stops) stop()
  })
  it('is left where it is of something else', async () => {
    server.reach = { rig: { id: 'small' }, set_list: { id: 'quay' }, reach: { reached: 5 } }
    desk.show(shown)
    await retitle('One')
    expect(cache.getQueryData(reachKey(shown))).toBeUndefined()
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

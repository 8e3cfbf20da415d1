import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { Problem } from '../../api/client'
import { type Keep, type Line, NightDesk } from './nightDesk'
import type { Held, NightEvent, Tonight } from './tonight'

beforeEach(() => void vi.useFakeTimers())
afterEach(() => void vi.useRealTimers())

/** A server with a network that can be cut. */
function quay() {
  const kept: NightEvent[] = []
  const lines = new Set<{
    event: (e: NightEvent) => void
    plan: (s: string) => void
    up: () => void
    down: () => void
  }>()
  let up = true
  let loads = 0
  const reached = <T>(what: () => T): Promise<T> =>
    up ? Promise.resolve(what()) : Promise.reject(new Problem(0, undefined))
  const line = (clock: () => number): Line => ({
    load: () =>
      reached(() => {
        loads += 1
        return {
          now_ms: Date.now(),
          seq: kept.length,
          plan: 'p1',
          events: [...kept],
          evening: { steps: [], order: [], troubles: [], from: 0, rig: { id: 'r', name: 'R' } },
        } as unknown as Tonight
      }),
    breaks: () => reached(() => []),
    send: (_, now, events) =>
      reached(() => {
        const refused = events
          .filter((e) => e.text === 'no')
          .map((e) => ({ id: e.id, reason: 'it is not so' }))
        for (const e of events) {
          if (kept.some((k) => k.id === e.id) || e.text === 'no') continue
          const told = { ...e, at_ms: Date.now() - Math.max(0, now - e.at_ms) }
          kept.push(told)
          for (const l of lines) l.event(told)
        }
        return { refused }
      }),
    listen: (_, after, hears) => {
      lines.add(hears)
      queueMicrotask(() => {
        if (!up) return hears.down()
        hears.up()
        hears.plan('p1')
        for (const e of kept.slice(after)) hears.event(e)
      })
      return () => lines.delete(hears)
    },
    clock,
  })
  return {
    kept,
    line,
    loads: () => loads,
    cut: () => {
      up = false
      for (const l of [...lines]) l.down()
    },
    mend: () => {
      up = true
    },
  }
}

const store = (first?: Held): Keep & { held: Held | undefined } => ({
  held: first,
  read() {
    return this.held
  },
  write(h) {
    this.held = h
  },
})

const desk = (q: ReturnType<typeof quay>, keep: Keep, id = 'phone', clock = () => Date.now()) =>
  new NightDesk('quay', undefined, q.line(clock), keep, { id, name: id })

test('what happens without the network is told once when it is back', async () => {
  const q = quay()
  const keep = store()
  const d = desk(q, keep)
  const close = d.open()
  await vi.advanceTimersByTimeAsync(10)
  expect(d.snapshot().online).toBe(true)
  q.cut()
  expect(d.snapshot().online).toBe(false)
  d.happen({ kind: 'note', text: 'one' })
  d.happen({ kind: 'note', text: 'two' })
  await vi.advanceTimersByTimeAsync(10_000)
  expect(q.kept).toHaveLength(0)
  expect(keep.held?.outbox.map((e) => e.text)).toEqual(['one', 'two'])
  q.mend()
  await vi.advanceTimersByTimeAsync(4000)
  expect(q.kept.map((e) => e.text)).toEqual(['one', 'two'])
  expect(keep.held?.outbox).toEqual([])
  q.cut()
  d.happen({ kind: 'note', text: 'three' })
  q.mend()
  await vi.advanceTimersByTimeAsync(4000)
  expect(q.kept.map((e) => e.text)).toEqual(['one', 'two', 'three'])
  close()
})

test('a page that is loaded anew without the network has what it had, and tells it later', async () => {
  const q = quay()
  const keep = store()
  const first = desk(q, keep)
  const close = first.open()
  await vi.advanceTimersByTimeAsync(10)
  q.cut()
  first.happen({ kind: 'note', text: 'before' })
  close()
  const second = desk(q, keep)
  const end = second.open()
  await vi.advanceTimersByTimeAsync(10)
  expect(second.snapshot().held.night).toBeDefined()
  expect(second.snapshot().held.outbox).toHaveLength(1)
  q.mend()
  await vi.advanceTimersByTimeAsync(4000)
  expect(q.kept.map((e) => e.text)).toEqual(['before'])
  end()
})

test('a clock that is hours wrong puts what it notes where it was', async () => {
  const q = quay()
  const wrong = desk(q, store(), 'wrong', () => Date.now() - 5 * 3_600_000)
  const right = desk(q, store(), 'right')
  const ends = [wrong.open(), right.open()]
  await vi.advanceTimersByTimeAsync(10)
  q.cut()
  wrong.happen({ kind: 'note', text: 'first' })
  await vi.advanceTimersByTimeAsync(1000)
  right.happen({ kind: 'note', text: 'second' })
  await vi.advanceTimersByTimeAsync(1000)
  wrong.happen({ kind: 'note', text: 'third' })
  q.mend()
  await vi.advanceTimersByTimeAsync(6000)
  expect(q.kept.toSorted((a, b) => a.at_ms - b.at_ms).map((e) => e.text)).toEqual([
    'first',
    'second',
    'third',
  ])
  for (const end of ends) end()
})

test('other pages hear what happens, and look for the rest of the night where that is another', async () => {
  const q = quay()
  const a = desk(q, store(), 'a')
  const b = desk(q, store(), 'b')
  const ends = [a.open(), b.open()]
  await vi.advanceTimersByTimeAsync(10)
  const before = q.loads()
  a.happen({ kind: 'at', entry: 'x' })
  await vi.advanceTimersByTimeAsync(10)
  expect(b.snapshot().held.heard.map((e) => e.entry)).toEqual(['x'])
  expect(q.loads()).toBe(before)
  a.happen({ kind: 'called', song: 's' })
  await vi.advanceTimersByTimeAsync(10)
  expect(q.loads()).toBeGreaterThan(before)
  for (const end of ends) end()
})

test('what is refused is said, and not sent again', async () => {
  const q = quay()
  const d = desk(q, store())
  const close = d.open()
  await vi.advanceTimersByTimeAsync(10)
  d.happen({ kind: 'note', text: 'no' })
  await vi.advanceTimersByTimeAsync(10)
  expect(d.snapshot().refused).toEqual(['it is not so'])
  expect(d.snapshot().held.outbox).toEqual([])
  d.dismiss()
  expect(d.snapshot().refused).toEqual([])
  close()
})

test('a page stands where it was moved last, whatever clocks and answers say', async () => {
  const q = quay()
  const keep = store()
  const slow: Line = {
    ...q.line(() => Date.now()),
    load: async (show, rig) => {
      const night = await q.line(() => Date.now()).load(show, rig)
      await new Promise((done) => setTimeout(done, 700)) // the answer takes its time
      return night
    },
  }
  const d = new NightDesk('quay', undefined, slow, keep, { id: 'phone', name: 'phone' })
  const close = d.open()
  await vi.advanceTimersByTimeAsync(1000)
  for (const section of ['1', '2', '3', '4']) {
    d.happen({ kind: 'at', entry: 'x', section })
    await vi.advanceTimersByTimeAsync(40)
    expect(d.snapshot().held.own?.section).toBe(section)
  }
  await vi.advanceTimersByTimeAsync(3000)
  expect(d.snapshot().held.own?.section).toBe('4')
  expect(keep.held?.own?.section).toBe('4')
  const away = (d.snapshot().held.night?.now_ms ?? 0) - d.snapshot().held.at
  expect(Math.abs(away)).toBeLessThanOrEqual(350)
  close()
})

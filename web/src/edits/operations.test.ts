import { describe, expect, it } from 'vitest'
import written from '../../../core/operation/testdata/vectors.json'
import { difference } from './difference'
import { type Json, matches } from './match'
import { applied, Conflict, type Op } from './operations'

interface Vector {
  name: string
  before: Json
  ops: Op[]
  after?: Json
  reason?: string
}

// The same file that the server's own tests read: what is shown before there is an answer is what the
// answer will be.
const vectors = written as unknown as Vector[]

describe('operations', () => {
  it.each(vectors)('$name', ({ before, ops, after, reason }) => {
    const was = structuredClone(before)
    if (reason) expect(() => applied(before, ops)).toThrow(Conflict)
    else expect(applied(before, ops)).toEqual(after)
    expect(before).toEqual(was)
  })
})

// A small generator with a seed, so that what fails can be run again.
function dice(seed: number) {
  let state = seed
  return (n: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor((state / 2 ** 32) * n)
  }
}

type Roll = (n: number) => number
const some = <T>(roll: Roll, list: T[]): T => list[roll(list.length)] as T

const value = (roll: Roll): Json => some<Json>(roll, [0, 4, 7.5, true, 'B', { sync: '1/8.' }, { free: true }])

function rig(roll: Roll) {
  const stops = ['a', 'b', 'c', 'd', 'e'].filter(() => roll(4) > 0).map((s) => ({ stop: `${s}/fx` }))
  const shuffled = stops
    .map((s) => ({ s, at: roll(1000) }))
    .sort((x, y) => x.at - y.at)
    .map((x) => x.s)
  const cut = roll(shuffled.length + 1)
  const settings = () =>
    Object.fromEntries(
      ['a/fx/on', 'b/fx/time', 'c/fx/tone'].filter(() => roll(2)).map((k) => [k, value(roll)]),
    )
  const list = <T>(ids: string[], make: (id: string) => T) =>
    ids
      .filter(() => roll(3) > 0)
      .map((id) => ({ id, at: roll(1000) }))
      .sort((x, y) => x.at - y.at)
      .map((x) => make(x.id))
  return {
    id: 'r',
    name: some(roll, ['Long board', 'Carry-on']),
    ...(roll(2) && { notes: some(roll, ['dry', 'wet']) }),
    ...(roll(3) && { base: settings() }),
    path:
      roll(2) && shuffled.length > 0
        ? [
            ...shuffled.slice(0, cut),
            { split: { id: 's', kind: 'copy', lanes: [{ nodes: shuffled.slice(cut) }, {}] } },
          ]
        : shuffled,
    recipes: list(['r1', 'r2', 'r3'], (id) => ({
      id,
      sound: some(roll, ['home', 'lead']),
      values: settings(),
    })),
    held: list(['1', '2', '3'], (loop) => ({ switcher: 'sw', loop: Number(loop) })),
    guitars: list(['pier', 'dune'], (id) => id),
    ...(roll(2) && { presets: { echo: { A: settings(), ...(roll(2) && { B: settings() }) } } }),
    programs: Object.fromEntries(
      ['1', '2'].filter(() => roll(2)).map((bank) => [bank, { A: { label: some(roll, ['Lead', 'Home']) } }]),
    ),
    faults: Array.from({ length: roll(3) }, () => ({ text: some(roll, ['hum', 'no sound']) })),
    floor: {
      places: Object.fromEntries(
        ['a', 'b'].filter(() => roll(2)).map((k) => [k, { x_mm: roll(9), y_mm: 0 }]),
      ),
    },
  }
}

// A field that is empty may as well be absent, as the server writes it.
function tidy(x: unknown): unknown {
  if (Array.isArray(x)) return x.length > 0 ? x.map((y) => tidy(y) ?? {}) : undefined
  if (typeof x !== 'object' || x === null) return x === false || x === '' || x === 0 ? undefined : x
  const list = Object.entries(x).flatMap(([k, v]) =>
    k.includes('/') ? [[k, v]] : tidy(v) === undefined ? [] : [[k, tidy(v)]],
  )
  return list.length > 0 ? Object.fromEntries(list) : undefined
}

describe('the difference of two values', () => {
  it('leads from the one to the other', () => {
    for (let seed = 1; seed <= 500; seed += 1) {
      const roll = dice(seed)
      const [before, after] = [rig(roll), rig(roll)]
      const ops = difference(before, after)
      expect(tidy(applied(before, ops)), `seed ${seed}`).toEqual(tidy(after))
      expect(difference(after, after)).toEqual([])
    }
  })
  it('names what it changes by id and field', () => {
    const before = { id: 'r', recipes: [{ id: 'r1', sound: 'home', values: { 'a/fx/on': true } }] }
    const after = { id: 'r', recipes: [{ id: 'r1', sound: 'home', values: { 'a/fx/on': false } }] }
    expect(difference(before, after)).toEqual([
      {
        do: 'set',
        path: [{ key: 'recipes' }, { match: { id: 'r1' } }, { key: 'values' }, { key: 'a/fx/on' }],
        was: true,
        to: false,
      },
    ])
  })
  it('moves the one that was moved, and not those it passed', () => {
    const list = (...ids: string[]) => ({ sections: ids.map((id) => ({ id })) })
    const ops = difference(list('a', 'b', 'c', 'd'), list('b', 'c', 'd', 'a'))
    expect(ops).toHaveLength(1)
    expect(ops[0]).toMatchObject({ do: 'move', element: { id: 'a' }, after: { id: 'd' } })
  })
  it('lets two lines come to the end of a log', () => {
    const log = { faults: [{ text: 'hum' }] }
    const one = difference(log, { faults: [...log.faults, { text: 'one' }] })
    const two = difference(log, { faults: [...log.faults, { text: 'two' }] })
    expect(applied(applied(log, one), two)).toEqual({
      faults: [{ text: 'hum' }, { text: 'one' }, { text: 'two' }],
    })
  })
  it('sets a list whole where its elements have no names and their number changed', () => {
    const before = { faults: [{ text: 'hum' }, { text: 'buzz' }] }
    const ops = difference(before, { faults: [{ text: 'buzz' }] })
    expect(applied(before, ops)).toEqual({ faults: [{ text: 'buzz' }] })
    expect(() => applied({ faults: [{ text: 'hum' }, { text: 'buzz' }, { text: 'hiss' }] }, ops)).toThrow(
      Conflict,
    )
  })
})

describe('a match', () => {
  it('wants a field to be absent where it says null', () => {
    expect(matches({ bank: 'A', slot: '1' }, { bank: null, slot: '1' })).toBe(false)
    expect(matches({ slot: '1' }, { bank: null, slot: '1' })).toBe(true)
    expect(matches({ slot: '1' }, {})).toBe(false)
  })
})

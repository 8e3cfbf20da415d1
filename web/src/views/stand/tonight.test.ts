import { describe, expect, test } from 'vitest'
import {
  ago,
  eventsOf,
  type Held,
  indexOf,
  leaderOf,
  type NightEvent,
  positionsOf,
  type Step,
  stepsOf,
  type Tonight,
  waitsForServer,
  wayTo,
} from './tonight'

const song = (name: string, sections: number): Step[] =>
  Array.from(
    { length: sections },
    (_, i) =>
      ({
        entry: `in-${name}`,
        song: name,
        title: name,
        section: `${name}${i}`,
        label: `${i}`,
        starts: i === 0,
        presses: [],
        pressed: [],
        hands: [],
      }) as unknown as Step,
  )

const way = (act: string) => ({
  verdict: 'in_time',
  needed_s: 1,
  free_s: 15,
  presses: [{ act, switch: act }],
  hands: [],
  reason: '',
})

// Three songs of two sections; the ways from each section to each song are told apart by their names.
const night = {
  now_ms: 1000,
  seq: 1,
  plan: 'p',
  events: [],
  evening: {
    from: 0,
    steps: [...song('a', 2), ...song('b', 2), ...song('c', 2)],
    order: ['a', 'b', 'c'].map((s) => ({ entry: `in-${s}`, song: s, title: s })),
    calls: {
      rows: [0, 1, 2, 3, 4, 5],
      songs: ['a', 'b', 'c', 'd'].map((s, column) => ({
        song: s,
        title: s,
        sound: '',
        column: s === 'd' ? -1 : column,
      })),
      ways: Array.from({ length: 6 }, (_, row) => ['a', 'b', 'c'].map((to) => way(`${row}>${to}`))),
    },
  },
} as unknown as Tonight

const held = (outbox: Partial<NightEvent>[], heard: Partial<NightEvent>[] = [], at = 1000): Held => ({
  night,
  at,
  outbox: outbox.map((e, i) => ({ id: `o${i}`, at_ms: 2000 + i, page: 'me', ...e }) as NightEvent),
  heard: heard.map((e, i) => ({ id: `h${i}`, at_ms: 1500 + i, page: 'other', ...e }) as NightEvent),
})

const order = (h: Held) => stepsOf(h).flatMap((s, i, all) => (s.entry !== all[i - 1]?.entry ? [s.song] : []))

describe('songs that are called without the network', () => {
  test('come next, by the presses that were worked out before, and the one behind too', () => {
    const h = held([{ kind: 'called', song: 'c', entry: 'in-a', section: 'a0' }])
    expect(order(h)).toEqual(['a', 'c', 'b'])
    const steps = stepsOf(h)
    expect(steps[2]?.pressed).toEqual(['1>c'])
    expect(steps[4]?.pressed).toEqual(['5>b'])
    expect(waitsForServer(h)).toBe(false)
  })
  test('cut this one short where they come now', () => {
    const h = held([{ kind: 'called', song: 'c', entry: 'in-a', section: 'a0', now: true }])
    expect(stepsOf(h)[1]?.pressed).toEqual(['0>c'])
    expect(order(h)).toEqual(['a', 'c', 'b'])
  })
  test('are as they were when it is undone, or dropped', () => {
    expect(
      order(
        held([
          { kind: 'called', song: 'c', entry: 'in-a' },
          { kind: 'undone', of: 'o0' },
        ]),
      ),
    ).toEqual(['a', 'b', 'c'])
    expect(order(held([{ kind: 'dropped', drops: 'in-b', entry: 'in-a' }]))).toEqual(['a', 'c'])
  })
  test('wait for the server where their sections are not known', () => {
    const h = held([{ kind: 'called', song: 'd', entry: 'in-a' }])
    expect(order(h)).toEqual(['a', 'b', 'c'])
    expect(waitsForServer(h)).toBe(true)
    expect(wayTo(night, 0, 'd')).toBeUndefined()
  })
  test('before the first song come first', () => {
    expect(order(held([{ kind: 'called', song: 'b' }]))).toEqual(['b', 'a', 'c'])
  })
})

describe('places', () => {
  test('are told by the clock of this page, however far it is from the server', () => {
    const h = held([], [{ kind: 'at', entry: 'in-b', section: 'b1', leads: true, at_ms: 1500 }], 7_201_000)
    expect(leaderOf(positionsOf(h))?.since).toBe(7_201_500)
  })
  test('follow the page that leads and moved last', () => {
    const h = held(
      [{ kind: 'at', entry: 'in-a', page: 'me', at_ms: 5000 }],
      [
        { kind: 'at', entry: 'in-b', page: 'x', leads: true },
        { kind: 'at', entry: 'in-c', page: 'y', leads: true },
        { kind: 'at', entry: 'in-a', page: 'z' },
      ],
    )
    expect(leaderOf(positionsOf(h))?.entry).toBe('in-c')
    expect(positionsOf(h)).toHaveLength(4)
  })
  test('that are gone are the beginning of their song, or of the show', () => {
    expect(indexOf(night.evening.steps, { entry: 'in-b', section: 'b1' })).toBe(3)
    expect(indexOf(night.evening.steps, { entry: 'in-b', section: 'nope' })).toBe(2)
    expect(indexOf(night.evening.steps, { entry: 'nope' })).toBe(0)
    expect(indexOf(night.evening.steps, undefined)).toBe(0)
  })
})

test('events that were told and are still to be told are in the order they happened', () => {
  const h = held(
    [
      { kind: 'note', text: 'mine', at_ms: 1600 },
      { kind: 'note', at_ms: 900 },
    ],
    [{ kind: 'note', at_ms: 1550 }],
  )
  expect(eventsOf(h).map((e) => e.id)).toEqual(['o1', 'h0', 'o0'])
})

test('how old a copy is is said in the unit that fits', () => {
  expect([0, 59_000, 60_000, 45 * 60_000, 3 * 3_600_000].map(ago)).toEqual([
    '0 s',
    '59 s',
    '1 min',
    '45 min',
    '3 h',
  ])
})

test('what happened at one moment is in the same order on every page', () => {
  const heard = ['b', 'c', 'a'].map((id) => ({ id, at_ms: 5, kind: 'at', page: id }) as unknown as NightEvent)
  const told = (list: NightEvent[]) => eventsOf({ at: 0, outbox: [], heard: list }).map((e) => e.id)
  expect(told(heard)).toEqual(['a', 'b', 'c'])
  expect(told(heard.toReversed())).toEqual(['a', 'b', 'c'])
})

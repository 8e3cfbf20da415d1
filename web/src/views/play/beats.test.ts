import { expect, test } from 'vitest'
import type { PlaySong } from '../../api/types'
import { clicksOf, sectionAt, todoOf } from './beats'

const song = {
  beats: 3,
  sections: [
    { at_s: 0, length_s: 3, beat_s: 0.5 },
    { at_s: 3, length_s: 3, beat_s: 1 },
  ],
} as unknown as PlaySong

test('a bar is counted in, and each section clicks at its own tempo', () => {
  const clicks = clicksOf(song)
  expect(clicks.map((c) => c.at)).toEqual([-1.5, -1, -0.5, 0, 0.5, 1, 1.5, 2, 2.5, 3, 4, 5])
  expect(clicks.filter((c) => c.first).map((c) => c.at)).toEqual([-1.5, 0, 1.5, 3])
  expect(clicks.filter((c) => c.countIn)).toHaveLength(3)
  expect(clicksOf({ beats: 4, sections: [] } as unknown as PlaySong)).toEqual([])
})

test('a moment is in the section that has begun', () => {
  expect(sectionAt(song, -2)).toBe(0)
  expect(sectionAt(song, 2.99)).toBe(0)
  expect(sectionAt(song, 3)).toBe(1)
  expect(sectionAt(song, 99)).toBe(1)
})

test('what is pressed next is that of this section until it is due, then that of the next', () => {
  const two = {
    sections: [
      { until_s: 0, presses: [], by_hand: [] },
      { until_s: 10, presses: [{ switch: 'amber/s' }, { switch: 'echo/s' }], by_hand: [] },
      { until_s: 20, presses: [{ switch: 'nudge/s' }], by_hand: [] },
    ],
  } as unknown as PlaySong
  expect(todoOf(two, 1, 9, false)).toEqual(['amber/s', 'echo/s'])
  expect(todoOf(two, 1, 11, false)).toEqual(['nudge/s'])
  expect(todoOf(two, 0, 0, false), 'a section that asks for nothing looks on').toEqual(['amber/s', 'echo/s'])
  expect(todoOf(two, 2, 21, false), 'after the last there is nothing').toEqual([])
  expect(todoOf(two, 1, 99, true), 'by hand there is no time to be late').toEqual(['amber/s', 'echo/s'])
  expect(todoOf(two, 0, 0, true)).toEqual([])
})

import { expect, test } from 'vitest'
import type { PlaySong } from '../../api/types'
import { clicksOf, sectionAt } from './beats'

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

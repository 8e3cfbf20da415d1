import { expect, it, test } from 'vitest'
import { octaves, scale, signed, ticks } from './scale'

test('an axis has even steps that stay in its range', () => {
  expect(ticks(0, 100, 5)).toEqual([0, 20, 40, 60, 80, 100])
  expect(ticks(-7.3, 4.1, 4)).toEqual([-5, 0])
  expect(ticks(3, 3, 4)).toEqual([3])
  expect(ticks(0.2, 0.5, 3)).toEqual([0.2, 0.3, 0.4, 0.5])
})

test('a scale is straight, and may be upside down', () => {
  const x = scale(-10, 10, 200, 0)
  expect([x(-10), x(0), x(10)]).toEqual([200, 100, 0])
})

test('a figure says which way it goes, and nothing of what rounds to nothing', () => {
  expect(signed(3.24)).toBe('+3.2')
  expect(signed(-3.26)).toBe('−3.3')
  expect(signed(-0.04)).toBe('0.0')
  expect(signed(12.6, 0)).toBe('+13')
})

it('gives every octave the same room', () => {
  const x = octaves(100, 1600, 0, 80)
  expect([100, 200, 400, 800, 1600].map((hz) => Math.round(x(hz)))).toEqual([0, 20, 40, 60, 80])
})

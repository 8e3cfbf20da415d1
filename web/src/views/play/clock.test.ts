import { expect, test } from 'vitest'
import { ClockMap, latencyOf } from './clock'

// A small generator, so that the test is the same every time.
function random(seed: number) {
  let s = seed
  return () => {
    s = (s * 1664525 + 1013904223) % 4294967296
    return s / 4294967296
  }
}

test('two clocks that part by 100 ppm for an hour stay together within 2 ms', () => {
  const map = new ClockMap()
  const rnd = random(7)
  const audioAt = (page: number) => 12.5 + (page / 1000) * (1 + 100e-6)
  let worst = 0
  for (let page = 0; page < 3600_000; page += 500) {
    map.look(page, audioAt(page) + (rnd() - 0.5) * 0.006) // a look is up to 3 ms off
    if (page > 30_000) worst = Math.max(worst, Math.abs((map.audioAt(page + 180) ?? 0) - audioAt(page + 180)))
  }
  expect(worst).toBeLessThan(0.002)
})

test('an offset taken once would be off by 360 ms after the hour', () => {
  const once = new ClockMap(1)
  once.look(0, 0)
  expect(Math.abs((once.audioAt(3600_000) ?? 0) - 3600 * (1 + 100e-6))).toBeGreaterThan(0.3)
})

test('it answers from the first look on, and a clock that stands still is ignored', () => {
  const map = new ClockMap()
  expect(map.audioAt(0)).toBeUndefined()
  map.look(1000, 2)
  expect(map.audioAt(1500)).toBeCloseTo(2.5)
  map.look(1000, 2)
  map.look(900, 1)
  expect(map.audioAt(1500)).toBeCloseTo(2.5)
})

test('latency is the median of taps along, and no answer where they scatter', () => {
  const beats = Array.from({ length: 12 }, (_, i) => i * 0.5)
  expect(
    latencyOf(
      beats.slice(1, 10).map((b) => b + 0.12),
      beats,
    ),
  ).toBeCloseTo(0.12)
  expect(latencyOf([0.1, 0.6], beats)).toBeUndefined()
  const rnd = random(3)
  expect(
    latencyOf(
      beats.map((b) => b + (rnd() - 0.5) * 0.48),
      beats,
    ),
  ).toBeUndefined()
})

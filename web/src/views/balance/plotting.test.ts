import { describe, expect, test } from 'vitest'
import type { GainPoint, GainTarget } from '../../api/types'
import { crowding, placed, rangeOf, type Shown } from './plotting'

const point = (i: number, dirt: number, loud: number, name = 'A', sounds: string[] = []): Shown => ({
  i,
  p: { dirt_pct: dirt, over_home_lu: loud, name, sounds } as unknown as GainPoint,
})
const target = (dirt: number, more: Partial<GainTarget> = {}) => ({ dirt_min: dirt, ...more }) as GainTarget
const same = (v: number) => v

describe('the range of the map', () => {
  test('holds every point and every target, with a little room', () => {
    const r = rangeOf([point(0, 70, 6), point(1, 5, -3)], [target(0, { loud_min: -4, loud_max: 9 })])
    expect(r.low).toBeCloseTo(-4.8)
    expect(r.high).toBeCloseTo(9.8)
    expect(r.dirt).toBe(76)
  })

  test('is never empty, and a silent point does not flatten the rest', () => {
    expect(rangeOf([], [])).toEqual({ low: -1.8, high: 1.8, dirt: 66 })
    expect(rangeOf([point(0, 5, -90)], []).low).toBe(-30)
    expect(rangeOf([], [target(3)]).high, 'a target without loudness says nothing of it').toBeCloseTo(1.8)
  })
})

describe('letters', () => {
  test('stand where they have room: the picked point first, then those of sounds, then the shortest', () => {
    const crowd = [point(0, 10, 0, 'AB'), point(1, 12, 2, 'A'), point(2, 14, 4, 'ABC', ['lead'])]
    expect([...placed(crowd, same, same, undefined)]).toEqual([2])
    expect([...placed(crowd, same, same, 0)]).toEqual([0])
    expect([...placed(crowd.slice(0, 2), same, same, undefined)]).toEqual([1])
  })

  test('stand side by side where points are far enough apart', () => {
    const far = [point(0, 0, 0), point(1, 44, 0), point(2, 0, 14)]
    expect([...placed(far, same, same, undefined)].sort()).toEqual([0, 1, 2])
    expect([...placed([point(0, 0, 0), point(1, 43, 13)], same, same, undefined)]).toHaveLength(1)
  })
})

describe('the name of a region', () => {
  const top = (t: GainTarget) => t.loud_max ?? 0
  const targets = [
    target(0, { loud_max: 10 }),
    target(20, { loud_max: 12 }),
    target(200, { loud_max: 10 }),
    target(30, { loud_max: 60 }),
  ]

  test('is moved on for each one before it that has its name there', () => {
    expect(targets.map((_, n) => crowding(targets, n, top, same))).toEqual([0, 1, 0, 0])
    expect(crowding(targets, 9, top, same)).toBe(0)
  })
})

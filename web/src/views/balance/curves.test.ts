import { describe, expect, test } from 'vitest'
import type { ElectricReport, ElectricSound, Placement } from '../../api/types'
import { curvesOf, nearest } from './curvesOf'
import { grouped } from './grouped'

const sound = (recipe: string, name: string, id = recipe) =>
  ({
    recipe,
    name,
    sound: id,
    points: [{ f_hz: 100, db: recipe.length }],
    reference: [{ f_hz: 100, db: 0 }],
  }) as unknown as ElectricSound
const home = sound('h', 'Home')
const lead = sound('le', 'Lead')
const dust = sound('dus', 'Dust')
const report = (more: Partial<ElectricReport> = {}) =>
  ({ sounds: [home, lead, dust], worst: 'dus', ...more }) as unknown as ElectricReport
const colour = (id: string) => `tape-${id}`
const ids = (r: ElectricReport, here: ElectricSound, tried?: string) =>
  curvesOf(r, report(), here, tried, colour).map((c) => c.id)

describe('the curves of a sound', () => {
  test('are its own, on top, over the worst and the guitar on full', () => {
    expect(ids(report(), home)).toEqual(['reference', 'worst', 'here'])
    const own = curvesOf(report(), report(), home, undefined, colour).at(-1)
    expect(own).toMatchObject({ name: 'Home', colour: 'tape-h', width: 3, points: home.points })
  })

  test('leave the worst out where it is the one that is looked at', () => {
    expect(ids(report(), dust)).toEqual(['reference', 'here'])
    expect(ids(report({ worst: 'gone' }), home)).toEqual(['reference', 'here'])
  })

  test('have the other side of the biggest jump beside either of its ends', () => {
    const jump = { jump: { from_recipe: 'h', to_recipe: 'le' } } as Partial<ElectricReport>
    expect(ids(report(jump), home)).toEqual(['reference', 'worst', 'other', 'here'])
    const other = curvesOf(report(jump), report(), home, undefined, colour).find((c) => c.id === 'other')
    expect(other?.name).toBe('Lead, its biggest jump')
    expect(ids(report(jump), dust), 'not beside a third').toEqual(['reference', 'here'])
    expect(ids(report({ ...jump, worst: 'le' }), home), 'the worst is not drawn twice').toEqual([
      'reference',
      'worst',
      'here',
    ])
  })

  test('show what was, while a buffer is tried', () => {
    expect(ids(report(), home, 'nudge/fx')).toEqual(['reference', 'worst', 'was', 'here'])
    const was = curvesOf(report(), report(), home, 'nudge/fx', colour).find((c) => c.id === 'was')
    expect(was?.name).toBe('Home without the buffer')
  })
})

test('places of a boost that sound alike are one, under the first of them', () => {
  const place = (before: string, same?: number) => ({ before, same_as: same })
  const found = {
    places: [place('a'), place('b', 0), place('c', 0), place('d'), place('e', 3)],
  } as unknown as Placement
  const groups = grouped(found)
  expect(groups.map((g) => g.all.map((x) => x.index))).toEqual([
    [0, 1, 2],
    [3, 4],
  ])
  expect(groups[1]?.first).toBe(found.places[3])
  expect(grouped({ places: [] } as unknown as Placement)).toEqual([])
  const orphan = { places: [place('a', 7)] } as unknown as Placement
  expect(grouped(orphan), 'the first stands on its own whatever it says').toHaveLength(1)
})

test('the nearest point of a grid is nearest by ratio, as the ear has it', () => {
  const grid = [100, 1000, 10000].map((f_hz) => ({ f_hz }))
  expect(nearest(grid, 100)).toBe(0)
  expect(nearest(grid, 310)).toBe(0)
  expect(nearest(grid, 330)).toBe(1)
  expect(nearest(grid, 4000)).toBe(2)
  expect(nearest(grid, 20)).toBe(0)
  expect(nearest([], 100)).toBe(-1)
})

import { describe, expect, test } from 'vitest'
import type { ReachSection, Rig } from '../api/types'
import { copyOf } from './copyOf'
import { songs } from './songRuns'

const section = (entry: string, song: string, n: number, bpm = 100) =>
  ({ entry, song, bpm, position: n, section: `S${n}` }) as ReachSection

describe('the songs of a night', () => {
  test('are runs of sections of one entry', () => {
    const runs = songs([section('a', 'One', 0), section('a', 'One', 1), section('b', 'Two', 2, 132)])
    expect(runs.map((r) => [r.key, r.title, r.bpm, r.sections.length])).toEqual([
      ['a', 'One', 100, 2],
      ['b', 'Two', 132, 1],
    ])
  })

  test('stay apart where one is played twice, also in a row', () => {
    const runs = songs([section('a', 'One', 0), section('b', 'One', 1), section('a2', 'One', 2)])
    expect(runs).toHaveLength(3)
    expect(songs([])).toEqual([])
  })
})

describe('a copy of a rig', () => {
  const rig = {
    id: 'long',
    name: 'Long board',
    floor: {},
    profile: {},
    path: [{ stop: 'amber/fx' }],
    recipes: [
      { id: 'r1', sound: 'home' },
      { id: 'r2', sound: 'lead' },
    ],
    destinations: [
      { id: 'hired', name: 'Hired head', kind: 'hired-amp', recipes: [{ id: 'r2', sound: 'lead' }] },
    ],
    swaps: [
      {
        id: 'slot',
        name: 'Colour',
        boxes: [
          { gear: 'amber' },
          { gear: 'vibe', kept: { settings: [{ recipe: 'r2', destination: 'hired' }, { values: {} }] } },
        ],
      },
    ],
  } as unknown as Rig
  const copy = copyOf(rig, 'Short board')

  test('has ids of its own for everything that others can name', () => {
    expect(copy.name).toBe('Short board')
    const old = ['long', 'r1', 'r2', 'hired']
    const fresh = [copy.id, ...(copy.recipes ?? []).map((r) => r.id), copy.destinations?.[0]?.id]
    for (const id of fresh) expect(old).not.toContain(id)
    expect(new Set(fresh).size).toBe(fresh.length)
  })

  test('says what is kept of a box of a slot in its own recipes', () => {
    const settings = copy.swaps?.[0]?.boxes?.[1]?.kept?.settings
    expect(settings?.[0]).toEqual({ recipe: copy.recipes?.[1]?.id, destination: copy.destinations?.[0]?.id })
    expect(settings?.[1]?.recipe).toBeUndefined()
  })

  test('keeps a recipe of a destination over the one of the rig that it replaces', () => {
    expect(copy.destinations?.[0]?.recipes?.[0]?.id).toBe(copy.recipes?.[1]?.id)
  })

  test('leaves the rig as it was, and carries the rest along', () => {
    expect(rig.recipes?.map((r) => r.id)).toEqual(['r1', 'r2'])
    expect(copy.path).toEqual(rig.path)
    expect(copyOf({ ...rig, recipes: undefined, destinations: undefined }, 'x').recipes).toBeUndefined()
  })
})

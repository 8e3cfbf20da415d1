import { describe, expect, it } from 'vitest'
import type {
  Destination,
  Gear,
  OrderMove,
  PathNode,
  Rig,
  Split,
  VariableInfo,
  WholePlan,
} from '../../api/types'
import { apart, there, withBaseAt, withPath, withRecipes } from '../../state/there'
import {
  around,
  inLine,
  laneName,
  lanesOf,
  moved,
  put,
  rowsOf,
  runsOf,
  spare,
  splitAround,
  stepped,
  stopsOf,
  without,
} from './chain'
import { gist, heldIn, memoryOf, settingOf, withMemory, worded } from './lit'
import { taken } from './taken'

const pedal = (id: string): Gear => ({
  id,
  name: id.toUpperCase(),
  kind: 'pedal',
  blocks: [{ id: 'fx', name: 'fx', effect: 'overdrive', bypass: 'true' }],
})
const amp: Gear = {
  id: 'amp',
  name: 'Amp',
  kind: 'amp',
  blocks: [
    { id: 'preamp', name: 'preamp', effect: 'preamp', bypass: 'always' },
    { id: 'power', name: 'power', effect: 'power', bypass: 'always' },
  ],
}
const rig: Rig = {
  id: 'rig',
  name: 'Rig',
  floor: {},
  profile: {},
  path: ['a/fx', 'b/fx', 'amp/preamp', 'c/fx', 'amp/power'].map((stop) => ({ stop })),
}
const plan = {
  gear: [pedal('a'), pedal('b'), pedal('c'), pedal('d'), amp, { ...amp, id: 'hired', name: 'Hired' }].map(
    (value) => ({ version: 1, value }),
  ),
} as unknown as WholePlan

const stops = stopsOf(plan)
const own = rig.path ?? []
const ids = (nodes: PathNode[]): unknown[] =>
  nodes.map((n) => (n.split ? [n.split.id, ...lanesOf(n.split).map((l) => ids(l.nodes ?? []))] : n.stop))
const split = (id: string, ...lanes: string[][]): PathNode => ({
  split: { id, kind: 'copy', join: 'sum', lanes: lanes.map((l) => ({ nodes: l.map((stop) => ({ stop })) })) },
})
const forked = [{ stop: 'a/fx' }, split('s', ['b/fx'], []), { stop: 'c/fx' }]

describe('the chain', () => {
  it('knows its stops by name', () => {
    expect(stops.get('a/fx')?.name).toBe('A')
    expect(stops.get('amp/power')?.name).toBe('Amp power')
  })
  it('is laid out in rows around the amp', () => {
    const rows = rowsOf(own, stops)
    expect([rows.front, rows.loop, rows.out].map(ids)).toEqual([
      ['a/fx', 'b/fx', 'amp/preamp'],
      ['c/fx'],
      ['amp/power'],
    ])
  })
  it('offers what is owned and not in it, an amp whole', () => {
    expect(spare(plan, own).map((s) => s.name)).toEqual(['D', 'Hired'])
    expect(ids(spare(plan, own)[1]?.nodes ?? [])).toEqual(['hired/preamp', 'hired/power'])
    expect(spare(plan, forked).map((s) => s.name)).not.toContain('B')
  })
  it('puts nodes before, after, into a lane, and at the end', () => {
    const d = [{ stop: 'd/fx' }]
    expect(ids(put(forked, d, { before: 'b/fx' }))).toEqual(['a/fx', ['s', ['d/fx', 'b/fx'], []], 'c/fx'])
    expect(ids(put(forked, d, { after: 's' }))).toEqual(['a/fx', ['s', ['b/fx'], []], 'd/fx', 'c/fx'])
    expect(ids(put(forked, d, { split: 's', lane: 1 }))).toEqual(['a/fx', ['s', ['b/fx'], ['d/fx']], 'c/fx'])
    expect(ids(put(forked, d, 'end'))).toEqual(['a/fx', ['s', ['b/fx'], []], 'c/fx', 'd/fx'])
  })
  it('moves stops in and out of lanes, and splits with all that is in them', () => {
    expect(ids(moved(forked, 'c/fx', { split: 's', lane: 1 }))).toEqual(['a/fx', ['s', ['b/fx'], ['c/fx']]])
    expect(ids(moved(forked, 'b/fx', { before: 'a/fx' }))).toEqual(['b/fx', 'a/fx', ['s', [], []], 'c/fx'])
    expect(ids(moved(forked, 's', 'end'))).toEqual(['a/fx', 'c/fx', ['s', ['b/fx'], []]])
  })
  it('never puts a split into itself, and leaves what it does not know', () => {
    expect(moved(forked, 's', { split: 's', lane: 0 })).toBe(forked)
    expect(moved(forked, 's', { before: 'b/fx' })).toBe(forked)
    expect(moved(forked, 'x/fx', 'end')).toBe(forked)
  })
  it('steps within its own line', () => {
    expect(ids(stepped(forked, 'c/fx', -1))).toEqual(['a/fx', 'c/fx', ['s', ['b/fx'], []]])
    expect(ids(stepped(forked, 'b/fx', -1))).toEqual(ids(forked))
  })
  it('splits around a stop, and beside another', () => {
    expect(ids(splitAround(own, 'b/fx', 'n'))).toEqual([
      'a/fx',
      ['n', ['b/fx'], []],
      'amp/preamp',
      'c/fx',
      'amp/power',
    ])
    expect(ids(splitAround(own, 'a/fx', 'n', 'b/fx'))[0]).toEqual(['n', ['a/fx'], ['b/fx']])
    expect(splitAround(forked, 'b/fx', 'n', 's')).toBe(forked)
  })
  it('undoes a split', () => {
    expect(ids(inLine(forked, 's'))).toEqual(['a/fx', 'b/fx', 'c/fx'])
  })
  it('takes out what it is told to, in lanes too', () => {
    expect(ids(without(forked, (n) => n.stop === 'b/fx'))).toEqual(['a/fx', ['s', [], []], 'c/fx'])
  })
  it('knows in which lane a node stands', () => {
    expect(around(forked, 'b/fx')).toEqual({ split: 's', lane: 0 })
    expect(around(forked, 'a/fx')).toBeUndefined()
  })
  it('parts where a split does', () => {
    expect(runsOf(forked).map(ids)).toEqual([['a/fx', ['s', ['b/fx'], []]], ['c/fx']])
  })
  it('names lanes by what they are', () => {
    const s = forked[1]?.split as Split
    expect(laneName(s, 1)).toBe('lane 2')
    expect(laneName({ ...s, lanes: [{ name: 'wet' }, {}] }, 0)).toBe('wet')
  })
})

describe('a move', () => {
  const m = { words: 'x', cost: 0, order: [], path: forked } as OrderMove
  it('is taken as it was worked out', () => {
    expect(taken(rig, undefined, own, m).path).toBe(forked)
  })
  it('holds the loops it asks for', () => {
    const held = [{ switcher: 'sw', loop: 2 }]
    expect(taken(rig, undefined, own, { ...m, held }).held).toEqual(held)
  })
})

describe('a destination', () => {
  const at = (d: Partial<Destination>): Rig => ({
    ...rig,
    base: { 'a/fx/gain': 1 },
    recipes: [{ id: 'r1', sound: 's' }],
    destinations: [{ id: 'd', name: 'D', kind: 'hired-amp', ...d }],
  })
  const looked = (r: Rig, derived?: PathNode[]) => there(r, r.destinations?.[0], derived)
  it('shows the chain worked out for it, or its own', () => {
    expect(looked(at({}), forked).path).toBe(forked)
    expect(looked(at({ path: forked }), own).path).toBe(forked)
  })
  it('lays its settings and recipes over those of the rig', () => {
    const r = looked(
      at({
        base: { 'a/fx/gain': 7 },
        recipes: [
          { id: 'r1', sound: 's', name: 'there' },
          { id: 'r2', sound: 's' },
        ],
      }),
    )
    expect(r.base).toEqual({ 'a/fx/gain': 7 })
    expect(r.recipes?.map((x) => x.id)).toEqual(['r2', 'r1'])
    expect(r.recipes?.[1]?.name).toBe('there')
  })
  it('keeps changes of its chain to itself', () => {
    const next = withPath(at({}), 'd', forked, (p) => inLine(p, 's'))
    expect(next.path).toBe(rig.path)
    expect(ids(next.destinations?.[0]?.path ?? [])).toEqual(['a/fx', 'b/fx', 'c/fx'])
  })
  it('changes the recipe where it is kept', () => {
    const own = withRecipes(at({}), 'd', 'r1', () => [])
    expect(own.recipes).toEqual([])
    const set = withRecipes(at({ recipes: [{ id: 'r1', sound: 's' }] }), 'd', 'r1', () => [])
    expect(set.recipes?.length).toBe(1)
    expect(set.destinations?.[0]?.recipes).toEqual([])
    expect(apart(at({}), 'd', { id: 'r1', sound: 's' }).destinations?.[0]?.recipes?.length).toBe(1)
  })
  it('changes base settings where they belong', () => {
    const put = (r: Rig, key: string) => withBaseAt(r, 'd', key, (b) => ({ ...b, [key]: 9 }))
    expect(put(at({}), 'a/fx/gain').base?.['a/fx/gain']).toBe(9)
    expect(put(at({ base: { 'a/fx/gain': 2 } }), 'a/fx/gain').destinations?.[0]?.base?.['a/fx/gain']).toBe(9)
    expect(put(at({}), 'hired/preamp/gain').destinations?.[0]?.base?.['hired/preamp/gain']).toBe(9)
  })
})

const info = (key: string, more: Partial<VariableInfo>): VariableInfo => ({
  key,
  gear: 'e',
  label: key,
  switch: false,
  access: 'slow',
  min: 0,
  max: 10,
  timed: false,
  default: 5,
  ...more,
})
const vars = [
  info('e/fx/preset', {
    kind: 'preset',
    access: 'foot',
    default: 'A',
    options: ['A', 'B'],
    label: 'Echo preset',
  }),
  info('e/fx/time', { kind: 'knob', access: 'memory', unit: 'ms', default: 400, label: 'Echo time' }),
]

describe('settings', () => {
  const [preset, time] = vars as [VariableInfo, VariableInfo]
  it('come from the recipe, else the base, else the box', () => {
    const recipe = { id: 'r', sound: 's', values: { 'e/fx/preset': 'B' } }
    expect(settingOf(rig, recipe, preset)).toEqual({ value: 'B', from: 'sound' })
    expect(settingOf({ ...rig, base: { 'e/fx/preset': 'B' } }, undefined, preset)).toEqual({
      value: 'B',
      from: 'base',
    })
    expect(settingOf(rig, undefined, preset)).toEqual({ value: 'A', from: 'gear' })
  })
  it('that are stored belong to the preset in force', () => {
    expect(memoryOf(rig, undefined, time, vars)).toEqual({ preset: 'A' })
    expect(memoryOf(rig, undefined, preset, vars)).toBeUndefined()
    const set = withMemory(rig, 'e', { preset: 'A' }, 'e/fx/time', 357)
    expect(set.presets).toEqual({ e: { A: { 'e/fx/time': 357 } } })
    expect(heldIn(set, { preset: 'A' }, time)).toBe(357)
    const shot = withMemory(set, 'e', { preset: 'A', snapshot: '2' }, 'e/fx/time', 400)
    expect(heldIn(shot, { preset: 'A', snapshot: '2' }, time)).toBe(400)
    expect(heldIn(shot, { preset: 'A', snapshot: '1' }, time)).toBe(357)
  })
  it('are worded shortly', () => {
    expect([
      worded(3.09),
      worded(357, 'ms'),
      worded(true),
      worded({ free: true }),
      worded({ sync: '1/8.' }),
      worded('B'),
    ]).toEqual(['3.1', '357 ms', 'on', 'any', '1/8.', 'B'])
    expect(gist(rig, undefined, vars)).toBe('preset A')
    expect(gist(rig, undefined, [])).toBe('')
  })
})

import { describe, expect, it } from 'vitest'
import type { Gear, Rig, VariableInfo, WholePlan } from '../../api/types'
import { ordered, pinned, placed, spare, stopsOf } from './chain'
import { gist, presetOf, settingOf, withPreset, worded } from './lit'

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
const zones = ['front', 'front', 'front', 'loop', 'out'] as const
const plan = {
  gear: [pedal('a'), pedal('b'), pedal('c'), pedal('d'), amp, { ...amp, id: 'hired', name: 'Hired' }].map(
    (value) => ({ version: 1, value }),
  ),
  zones: { rig: [...zones] },
} as unknown as WholePlan
const path = (r: Rig) => (r.path ?? []).map((n) => n.stop)

describe('the chain', () => {
  it('reads stops with their zone', () => {
    expect(stopsOf(plan, rig).map((s) => `${s.name} ${s.zone}`)).toEqual([
      'A front',
      'B front',
      'Amp preamp front',
      'C loop',
      'Amp power out',
    ])
  })
  it('offers what is owned and not in it, an amp whole', () => {
    expect(spare(plan, rig).map((s) => s.name)).toEqual(['D', 'Hired'])
    expect(spare(plan, rig)[1]?.keys).toEqual(['hired/preamp', 'hired/power'])
  })
  it('puts a stop before another', () => {
    expect(path(placed(rig, ['b/fx'], 'a/fx', [...zones], 'front'))).toEqual([
      'b/fx',
      'a/fx',
      'amp/preamp',
      'c/fx',
      'amp/power',
    ])
  })
  it('puts a stop at the end of a zone, also one that is empty', () => {
    expect(path(placed(rig, ['a/fx'], undefined, [...zones], 'loop'))).toEqual([
      'b/fx',
      'amp/preamp',
      'c/fx',
      'a/fx',
      'amp/power',
    ])
    const bare = { ...rig, path: rig.path?.filter((n) => n.stop !== 'c/fx') }
    expect(path(placed(bare, ['a/fx'], undefined, ['front', 'front', 'front', 'out'], 'loop'))).toEqual([
      'b/fx',
      'amp/preamp',
      'a/fx',
      'amp/power',
    ])
  })
  it('adds a stop that is not in it yet', () => {
    expect(path(placed(rig, ['d/fx'], 'amp/preamp', [...zones], 'front'))[2]).toBe('d/fx')
  })
  it('takes an order only whole', () => {
    const order = ['b/fx', 'a/fx', 'amp/preamp', 'c/fx', 'amp/power']
    expect(path(ordered(rig, order))).toEqual(order)
    expect(ordered(rig, order.slice(1))).toBe(rig)
  })
  it('pins and lets go', () => {
    const held = pinned(rig, 'b/fx', true)
    expect(held.path?.[1]?.pinned).toBe(true)
    expect(pinned(held, 'b/fx', false).path?.[1]?.pinned).toBeUndefined()
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
    expect(presetOf(rig, undefined, time, vars)).toBe('A')
    expect(presetOf(rig, undefined, preset, vars)).toBeUndefined()
    expect(withPreset(rig, 'e', 'A', 'e/fx/time', 357).presets).toEqual({ e: { A: { 'e/fx/time': 357 } } })
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

import { describe, expect, test } from 'vitest'
import type { Recipe, Rig, VariableInfo } from '../../api/types'
import { gist, heldIn, isFree, memoryOf, memoryWords, settingOf, syncOf, withMemory, worded } from './lit'

const knob = (key: string, more: Partial<VariableInfo> = {}): VariableInfo => ({
  key,
  gear: key.split('/')[0] ?? '',
  label: key.replaceAll('/', ' '),
  switch: false,
  kind: 'knob',
  access: 'slow',
  min: 0,
  max: 10,
  timed: false,
  default: 5,
  ...more,
})

const preset = knob('echo/preset', { kind: 'preset', access: 'foot', options: ['A', 'B'], default: 'A' })
const shot = knob('echo/snapshot', { kind: 'snapshot', access: 'foot', options: ['1', '2'], default: '1' })
const time = knob('echo/fx/time', { access: 'memory', unit: 'ms', max: 1200 })
const drive = knob('amber/fx/drive')

const rig = {
  id: 'r',
  name: 'R',
  floor: {},
  profile: {},
  base: { 'amber/fx/drive': 4 },
  presets: { echo: { A: { 'echo/fx/time': 300 }, B: { 'echo/fx/time': 380 } } },
  snapshots: { echo: { B: { '2': { 'echo/fx/time': 420 } } } },
} as unknown as Rig
const lead: Recipe = { id: 'l', sound: 'lead', values: { 'amber/fx/drive': 7, 'echo/preset': 'B' } }

describe('a setting', () => {
  test('is what the sound says, else the rig, else the gear', () => {
    expect(settingOf(rig, lead, drive)).toEqual({ value: 7, from: 'sound' })
    expect(settingOf(rig, undefined, drive)).toEqual({ value: 4, from: 'base' })
    expect(settingOf(rig, lead, knob('rust/fx/tone'))).toEqual({ value: 5, from: 'gear' })
  })

  test('is said in a word or two', () => {
    expect(worded(true)).toBe('on')
    expect(worded(false)).toBe('off')
    expect(worded({ free: true })).toBe('any')
    expect(worded({ sync: '1/8.' })).toBe('1/8.')
    expect(worded(357.14, 'ms')).toBe('357.1 ms')
    expect(worded(4)).toBe('4')
    expect(worded('plate')).toBe('plate')
    expect(isFree({ free: true })).toBe(true)
    expect(isFree(0)).toBe(false)
    expect(syncOf({ sync: '1/4' })).toBe('1/4')
    expect(syncOf('1/4')).toBeUndefined()
  })

  test('that says most of a box is its preset, else a selector for the foot, else a knob', () => {
    expect(gist(rig, lead, [time, preset])).toBe('preset B')
    expect(gist(rig, lead, [drive])).toBe('drive 7')
    const mode = knob('rust/fx/mode', { kind: 'selector', access: 'foot', default: 'soft' })
    expect(gist(rig, undefined, [knob('rust/fx/tone'), mode])).toBe('mode soft')
    expect(gist(rig, undefined, [])).toBe('')
  })
})

describe('a memory', () => {
  const all = [preset, shot, time, drive]

  test('is the preset a sound is on, and the snapshot within it', () => {
    expect(memoryOf(rig, lead, time, all)).toEqual({ preset: 'B', snapshot: '1' })
    expect(memoryOf(rig, undefined, time, [preset, time])).toEqual({ preset: 'A', snapshot: undefined })
    expect(memoryOf(rig, lead, drive, all), 'a knob is in none').toBeUndefined()
    expect(memoryOf(rig, lead, time, [time]), 'a box without presets has none').toBeUndefined()
    expect(memoryWords({ preset: 'B' })).toBe('preset B')
    expect(memoryWords({ preset: 'B', snapshot: '2' })).toBe('preset B, snapshot 2')
  })

  test('holds what its snapshot says over its preset', () => {
    expect(heldIn(rig, { preset: 'B', snapshot: '2' }, time)).toBe(420)
    expect(heldIn(rig, { preset: 'B', snapshot: '1' }, time)).toBe(380)
    expect(heldIn(rig, { preset: 'A' }, time)).toBe(300)
    expect(heldIn(rig, { preset: 'C' }, time)).toBeUndefined()
  })

  test('is written where it is read, and nothing else is touched', () => {
    const one = withMemory(rig, 'echo', { preset: 'A' }, 'echo/fx/time', 310)
    expect(heldIn(one, { preset: 'A' }, time)).toBe(310)
    expect(heldIn(one, { preset: 'B' }, time)).toBe(380)
    const two = withMemory(rig, 'echo', { preset: 'A', snapshot: '2' }, 'echo/fx/time', 99)
    expect(heldIn(two, { preset: 'A', snapshot: '2' }, time)).toBe(99)
    expect(heldIn(two, { preset: 'A', snapshot: '1' }, time)).toBe(300)
    expect(heldIn(two, { preset: 'B', snapshot: '2' }, time)).toBe(420)
    const fresh = withMemory(rig, 'room', { preset: '1' }, 'room/fx/mix', 3)
    expect(fresh.presets?.room).toEqual({ '1': { 'room/fx/mix': 3 } })
    expect(heldIn(rig, { preset: 'A' }, time), 'the rig itself is not changed').toBe(300)
  })
})

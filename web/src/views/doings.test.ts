import { describe, expect, it } from 'vitest'
import type { VariableInfo } from '../api/types'
import { chosen, doings } from './doings'

const variable = (key: string, more: Partial<VariableInfo>): VariableInfo => ({
  key,
  gear: 'echo',
  label: key,
  switch: false,
  access: 'foot',
  min: 0,
  max: 10,
  timed: false,
  default: 0,
  ...more,
})

const keys = [
  variable('echo/fx/on', { switch: true, label: 'Echo' }),
  variable('echo/fx/preset', { kind: 'preset', options: ['A', 'B'], label: 'Echo preset' }),
  variable('echo/fx/time', { kind: 'knob', unit: 'ms', label: 'Echo time' }),
  variable('echo/fx/mix', { kind: 'knob', label: 'Echo mix' }),
]

describe('what a switch can do', () => {
  const own = doings(keys, (key) => key.slice('echo/'.length))
  it('lists on and off, steps, options and taps, and no plain knob', () => {
    expect(own.map((d) => d.name)).toEqual([
      'nothing',
      'Echo on and off',
      'next Echo preset',
      'previous Echo preset',
      'Echo preset to A',
      'Echo preset to B',
      'tap Echo time',
    ])
  })
  it('keeps a box’s targets within the box and a rig’s whole', () => {
    expect(own[1]?.press?.actions[0]?.target).toBe('fx/on')
    expect(doings(keys, (k) => k)[1]?.press?.actions[0]?.target).toBe('echo/fx/on')
  })
  it('finds the entry of a press again', () => {
    for (const d of own) expect(chosen(d.press, own).id).toBe(d.id)
  })
  it('shows a press of several things as one of its own', () => {
    const press = {
      actions: [
        { kind: 'toggle' as const, target: 'fx/on' },
        { kind: 'tap' as const, target: 'fx/time' },
      ],
    }
    const { id, list } = chosen(press, own)
    expect(id).toBe('own')
    expect(list.at(-1)?.press).toBe(press)
  })
})

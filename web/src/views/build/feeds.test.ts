import { expect, test } from 'vitest'
import type { PowerChoice, Rig } from '../../api/types'
import { onBattery, plugged, switched, unplugged } from './feeds'

const rig = {
  id: 'r',
  name: 'R',
  floor: {},
  profile: {},
  power: [
    { supply: 's', output: '1', gear: ['a', 'b'] },
    { supply: 's', output: '2', gear: ['c'] },
  ],
  batteries: [{ gear: 'd', used_h: 3 }],
} as unknown as Rig
const choice = (output: string, lead?: string) =>
  ({ supply: 's', output, verdict: 'fits', voltage_v: 18, lead }) as PowerChoice

test('a box comes off its output, and an empty feed goes', () => {
  expect(unplugged(rig, 'a').power).toEqual([
    { supply: 's', output: '1', gear: ['b'] },
    { supply: 's', output: '2', gear: ['c'] },
  ])
  expect(unplugged(rig, 'c').power).toHaveLength(1)
  expect(unplugged(rig, 'd').batteries).toEqual([])
})

test('a box goes on a free output, switched where it can be, or beside another', () => {
  expect(plugged(rig, 'c', choice('3'), true).power).toContainEqual({
    supply: 's',
    output: '3',
    gear: ['c'],
    voltage_v: 18,
  })
  expect(plugged(rig, 'c', choice('3', 'reversing'), false).power).toContainEqual({
    supply: 's',
    output: '3',
    gear: ['c'],
    lead: 'reversing',
  })
  expect(plugged(rig, 'c', choice('1'), true).power).toEqual([
    { supply: 's', output: '1', gear: ['a', 'b', 'c'] },
  ])
})

test('a box runs on its battery, or an output is switched', () => {
  const next = onBattery(rig, 'c')
  expect(next.power).toHaveLength(1)
  expect(next.batteries).toContainEqual({ gear: 'c' })
  expect(switched(rig, 's', '2', 12).power?.[1]).toMatchObject({ voltage_v: 12 })
})

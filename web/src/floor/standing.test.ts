import { expect, test } from 'vitest'
import type { FloorBox, FloorPlan, Rig } from '../api/types'
import { inkOn, nowOn, snapped } from './standing'

const box = (gear: string, x: number, y: number): FloorBox => ({
  gear,
  name: gear,
  x_mm: x,
  y_mm: y,
  width_mm: 70,
  depth_mm: 120,
  rotation_deg: 0,
  placed: true,
  colour: '#808080',
  knobs: 0,
})
const floor: FloorPlan = {
  boards: [
    { board: 'main', name: 'Main', x_mm: 0, y_mm: 0, width_mm: 460, depth_mm: 300 },
    { board: 'small', name: 'Small', x_mm: 900, y_mm: 50, width_mm: 200, depth_mm: 150 },
  ],
  boxes: [box('a', 10, 10), box('b', 200, 10)],
  switches: [{ key: 'a/s', label: 'a', name: 'a', x_mm: 45, y_mm: 110, width_mm: 30 }],
}
const rig = (places: Rig['floor']['places']) => ({ floor: { places } }) as Rig

test('boxes stand where the plan has them, and their switches with them', () => {
  const now = nowOn(floor, rig({ a: { x_mm: 30, y_mm: 15 } }))
  expect(now.boxes[0]).toMatchObject({ x_mm: 30, y_mm: 15 })
  expect(now.switches[0]).toMatchObject({ x_mm: 65, y_mm: 115 })
  expect(now.boxes[1]).toBe(floor.boxes[1])
})

test('a place is measured from its own board', () => {
  expect(nowOn(floor, rig({ a: { x_mm: 5, y_mm: 5, board: 'small' } })).boxes[0]).toMatchObject({
    x_mm: 905,
    y_mm: 55,
  })
  expect(
    nowOn(floor, rig({ a: { x_mm: 5, y_mm: 5, on: 'ground', rotation_deg: 90 } })).boxes[0],
  ).toMatchObject({
    x_mm: 5,
    width_mm: 120,
    depth_mm: 70,
  })
})

test('what is dragged is drawn to edges close by, and to nothing far off', () => {
  expect(snapped(box('a', 0, 0), 128, 12, floor)).toEqual({ x: 130, y: 10 })
  expect(snapped(box('a', 0, 0), 3, 178, floor)).toEqual({ x: 0, y: 180 })
  expect(snapped(box('a', 0, 0), 60, 60, floor)).toEqual({ x: 60, y: 60 })
})

test('names are read on any colour', () => {
  expect(inkOn('#e8e6db')).toBe('#0e1112')
  expect(inkOn('#26252c')).toBe('#ffffff')
  expect(inkOn('#d69b2c')).toBe('#0e1112')
})

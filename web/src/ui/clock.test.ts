import { describe, expect, it } from 'vitest'
import { clockOf, readKnob } from './clock'

describe('a knob on the clock', () => {
  it.each([
    [0, '7 o’clock'],
    [5, '12 o’clock'],
    [10, '5 o’clock'],
    [7, '2 o’clock'],
    [7.5, '2:30'],
    [6, '1 o’clock'],
    [2.25, '9:15'],
  ])('%d is %s', (value, face) => expect(clockOf(value, 0, 10)).toBe(face))

  it.each([
    ['7', 7],
    ['2:30', 7.5],
    ["2 o'clock", 7],
    ['2 o’clock', 7],
    ['12 o’clock', 5],
    ['noon', 5],
    ['7:00', 0],
    ['5 o’clock', 10],
    ['6.5', 6.5],
    ['6,5', 6.5],
    ['0', 0],
  ])('%s is read as %d', (text, value) => expect(readKnob(text, 0, 10, true)).toBe(value))

  it.each(['', 'loud', '11', '-1', '6 o’clock', '5:30', '13:00', '2:75'])(
    '%s is refused in words',
    (text) => {
      expect(typeof readKnob(text, 0, 10, true)).toBe('string')
    },
  )

  it('comes back as it was said, to a quarter of an hour', () => {
    for (let quarter = 0; quarter <= 40; quarter += 1) {
      const value = quarter / 4
      expect(readKnob(clockOf(value, 0, 10), 0, 10, true)).toBeCloseTo(value, 9)
    }
  })

  it('has no clock where there is a unit', () => {
    expect(readKnob('357', 20, 1200, false)).toBe(357)
    expect(typeof readKnob('2:30', 20, 1200, false)).toBe('string')
    expect(readKnob('5', 20, 1200, false)).toBe('From 20 to 1200.')
  })
})

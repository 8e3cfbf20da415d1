import { expect, test } from 'vitest'
import type { TypedChip } from '../../api/types'
import { replaced, typedAs } from './chips'

const chip: TypedChip = {
  text: 'zorb 9V',
  from: 0,
  to: 7,
  name: 'Zorb',
  sure: false,
  others: [],
  left: ['zorb'],
  place: 'unknown',
  with: -1,
  count: 1,
  segment: 0,
  lane: 0,
}

test('a chip is replaced in a text with letters of several bytes', () => {
  expect(replaced('écho, zorb, hall', 7, 11, 'Zorb = Chorus')).toBe('écho, Zorb = Chorus, hall')
})

test('another kind keeps the name and the figures', () => {
  expect(typedAs(chip, { name: 'Chorus' })).toBe('Zorb = Chorus')
  expect(
    typedAs(
      {
        ...chip,
        volts: 9,
        ma: 20,
        size: { width_mm: 70, depth_mm: 120 },
        colour: 'orange',
        count: 2,
        loop: 3,
      },
      { name: 'Chorus' },
    ),
  ).toBe('3 Zorb = 2 x orange Chorus 9V 20mA 70x120')
})

import { expect, test } from 'vitest'
import { hertz, signed } from './figures'

test('a figure says which way it goes, and nothing of what rounds to nothing', () => {
  expect(signed(3.24)).toBe('+3.2')
  expect(signed(-3.26)).toBe('−3.3')
  expect(signed(-0.04)).toBe('0.0')
  expect(signed(12.6, 0)).toBe('+13')
})

test('a frequency is said in the unit one would say it in', () => {
  expect(hertz(82.4)).toBe('82\u00a0Hz')
  expect(hertz(999)).toBe('999\u00a0Hz')
  expect(hertz(4304)).toBe('4.30\u00a0kHz')
  expect(hertz(12040)).toBe('12.0\u00a0kHz')
})

import { expect, test } from 'vitest'
import { letters } from './letters'

test('a sound takes two letters of its name that none has yet', () => {
  expect(letters('Lead', [])).toBe('LE')
  expect(letters('Lead', ['LE'])).toBe('LA')
  expect(letters('Lead', ['LE', 'LA', 'LD'])).toBe('L1')
  expect(letters('lead & rhythm', ['LE'])).toBe('LA')
})

test('a name without letters still gets some, and one that is used up its first three', () => {
  expect(letters('…', [])).toBe('S')
  const all = ['LE', 'LA', 'LD', ...Array.from('123456789', (d) => `L${d}`)]
  expect(letters('Lead', all)).toBe('LEA')
})

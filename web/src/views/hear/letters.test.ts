import { expect, test } from 'vitest'
import { letters } from './letters'

test('a sound takes two letters of its name that none has yet', () => {
  expect(letters('Lead', [])).toBe('LE')
  expect(letters('Lead', ['LE'])).toBe('LA')
  expect(letters('Lead', ['LE', 'LA', 'LD'])).toBe('L1')
  expect(letters('lead & rhythm', ['LE'])).toBe('LA')
})

test('a name without letters still gets some', () => {
  expect(letters('…', [])).toBe('S')
})

test('however many sounds are added one after the other, no two have the same letters', () => {
  const taken: string[] = []
  for (let n = 0; n < 120; n++) taken.push(letters(`Sound ${n + 1}`, taken))
  expect(new Set(taken).size).toBe(120)
  for (const t of taken) expect(t.length).toBeLessThanOrEqual(3)
})

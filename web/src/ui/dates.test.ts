import { expect, test } from 'vitest'
import { dayAndMonth, longDate, moment, today } from './dates'

test('a date is said as one would say it', () => {
  expect(longDate('2027-06-12')).toBe('12 June 2027')
  expect(longDate('2026-11-07')).toBe('7 November 2026')
  expect(dayAndMonth('2027-06-12')).toBe('12 June')
})

test('the day is the one that was written, wherever the machine stands', () => {
  for (const day of ['01', '15', '31'])
    expect(longDate(`2027-12-${day}`)).toBe(`${Number(day)} December 2027`)
})

test('what is no date stays as it is', () => {
  expect(longDate('the twelfth')).toBe('the twelfth')
  expect(dayAndMonth('2027-13-40')).toBe('2027-13-40')
  expect(longDate('')).toBe('')
  expect(longDate(undefined)).toBe('')
})

test('a moment has its day and its minute', () => {
  expect(moment('2027-06-12T20:05:00')).toBe('12 Jun, 20:05')
})

test('today is the day of this machine, late in the evening too', () => {
  expect(today(new Date(2027, 5, 2, 23, 59))).toBe('2027-06-02')
})

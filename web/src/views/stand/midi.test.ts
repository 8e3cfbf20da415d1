import { expect, test } from 'vitest'
import { answered, bytesOf, type Cue, Follower, hexOf, type Line, news } from './midi'
import type { Step } from './tonight'

const step = (entry: string, section: string, clocks?: number) =>
  ({ entry, section, clocks }) as unknown as Step
const cue = (...bytes: string[]) =>
  ({ sends: bytes.map((b, i) => ({ moves: `v${i}`, bytes: b, words: b, to: 'Echo' })) }) as unknown as Cue

const steps = [step('a', '1', 48), step('a', '2', 24), step('b', '1', 96), step('b', '2')]
const cues = [cue('C2 00'), cue('C2 01'), cue('C2 01'), cue('C2 02')]

const hear = (f: Follower, from: number, ...bytes: number[]) => {
  let here = from
  for (const b of bytes) here = f.hear(b, here, steps, cues) ?? here
  return here
}
const ticks = (n: number) => Array.from({ length: n }, () => 0xf8)

test('a clock counts through the sections of a song and stays at its end', () => {
  const f = new Follower()
  expect(hear(f, 0, ...ticks(100))).toBe(0)
  expect(hear(f, 0, 0xfa, ...ticks(47))).toBe(0)
  expect(hear(f, 0, 0xf8)).toBe(1)
  expect(hear(f, 1, ...ticks(200))).toBe(1)
  expect(hear(f, 1, 0xfa)).toBe(2)
  expect(hear(f, 2, ...ticks(40), 0xfc, ...ticks(500))).toBe(2)
  expect(hear(f, 2, 0xfb, ...ticks(55))).toBe(2)
  expect(hear(f, 2, 0xf8)).toBe(3)
})

test('a clock that is started in the middle of a song does not leave it', () => {
  const f = new Follower()
  expect(hear(f, 0, 0xfa, ...ticks(10), 0xfa)).toBe(0)
})

test('a step that is come to otherwise is counted from its beginning', () => {
  const f = new Follower()
  hear(f, 0, 0xfa, ...ticks(40))
  f.moved()
  expect(hear(f, 0, ...ticks(47))).toBe(0)
})

test('a program change comes to the next section that has it and the one before has not', () => {
  const f = new Follower()
  expect(hear(f, 0, 0xc2, 0x01)).toBe(1)
  expect(hear(f, 1, 0xc2, 0x02)).toBe(3)
  expect(hear(f, 3, 0xc2, 0x00)).toBe(0)
  expect(hear(f, 0, 0xc5, 0x01, 0xb2, 0x01, 0x01)).toBe(0)
  expect(hear(f, 0, 0xc2, 0xf8, 0x01), 'a tick may stand between its bytes').toBe(1)
})

test('what was sent is not sent again', () => {
  const sent = new Map<string, string>()
  expect(news(sent, cue('C2 00', 'B2 66 7F').sends).map((s) => s.bytes)).toEqual(['C2 00', 'B2 66 7F'])
  expect(news(sent, cue('C2 01', 'B2 66 7F').sends).map((s) => s.bytes)).toEqual(['C2 01'])
  expect(news(sent, undefined)).toEqual([])
})

test('a device that answers wrongly is seen', () => {
  let lines: Line[] = [
    { to: 'Echo', words: 'B', bytes: 'C2 01' },
    { to: 'Room', words: 'on', bytes: 'B3 66 7F' },
  ]
  lines = answered(lines, 'B3 66 7F')
  lines = answered(lines, 'C2 02')
  lines = answered(lines, 'C9 02')
  expect(lines.map((l) => l.answer)).toEqual(['wrong', 'right'])
  expect(lines[0]?.said).toBe('C2 02')
})

test('bytes are read as they are written', () => {
  expect(bytesOf(hexOf([0, 15, 255]))).toEqual([0, 15, 255])
})

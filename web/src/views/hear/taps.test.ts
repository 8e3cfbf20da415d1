import { describe, expect, test } from 'vitest'
import { tapped } from './taps'

const taken = (times: number[]) =>
  times.reduce((taps, t) => tapped(taps.at, t), { at: [] as number[], sure: false } as ReturnType<
    typeof tapped
  >)

describe('taps', () => {
  test('give a tempo from the second, and are sure from the fourth', () => {
    expect(taken([1000])).toEqual({ at: [1000], sure: false })
    expect(taken([1000, 1500])).toMatchObject({ bpm: 120, sure: false })
    expect(taken([1000, 1500, 2000])).toMatchObject({ bpm: 120, sure: false })
    expect(taken([1000, 1500, 2000, 2500])).toMatchObject({ bpm: 120, sure: true })
  })

  test('forgive one that comes early or late', () => {
    expect(taken([0, 500, 900, 1500, 2000])).toMatchObject({ bpm: 120, sure: true })
    expect(taken([0, 500, 1100, 1500, 2000])).toMatchObject({ bpm: 120, sure: true })
  })

  test('begin anew after a pause, and remember nine', () => {
    expect(taken([0, 500, 1000, 1500, 3499]).at).toHaveLength(5)
    expect(taken([0, 500, 1000, 1500, 3500])).toEqual({ at: [3500], sure: false })
    const many = Array.from({ length: 30 }, (_, i) => i * 400)
    expect(taken(many).at).toEqual(many.slice(-9))
  })

  test('follow a hand that changes its mind', () => {
    const slow = [0, 1000, 2000, 3000]
    const fast = [3500, 4000, 4500, 5000, 5500]
    expect(taken([...slow, ...fast])).toMatchObject({ bpm: 120, sure: true })
  })

  test('are no tempo where no song has it', () => {
    expect(taken([0, 100, 200, 300])).toMatchObject({ bpm: 600, sure: false })
    expect(taken([0, 150, 300, 450])).toMatchObject({ bpm: 400, sure: true })
  })
})

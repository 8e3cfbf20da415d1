import { describe, expect, test } from 'vitest'
import type { Change, Verdict } from '../api/types'
import { findings } from './failures'

let count = 0

const change = (verdict: Verdict, more: Partial<Change> = {}): Change => {
  count += 1
  return {
    position: count,
    entry: 'e',
    song_id: 's',
    song: 'Tin Cabana',
    section_id: `x${count}`,
    section: 'Solo',
    from: { id: 'crunch', name: 'Crunch' },
    to: { id: 'lead', name: 'Lead' },
    verdict,
    needed_s: 1,
    free_s: 0.5,
    slack_s: -0.5,
    footwork_s: 1,
    between_songs: false,
    presses: [],
    hands: [],
    leisure: [],
    between: [],
    finding: `f${count}`,
    reason: 'Too far.',
    ...more,
  }
}

describe('what fails on a rig', () => {
  test('is nothing where no change is a finding', () => {
    expect(findings([])).toEqual([])
    expect(
      findings([change('in_time', { finding: undefined }), change('tight', { finding: undefined })]),
    ).toEqual([])
  })

  test('is said by its place, and by how much it is late', () => {
    const [one] = findings([change('late', { slack_s: -0.304 })])
    expect(one?.title).toBe('Tin Cabana, Solo: late by 0.30\u00a0s')
    expect(one?.reason).toBe('Too far.')
    expect(one?.settled).toBeUndefined()
  })

  test('is one finding where it fails for the same reason', () => {
    const same = { finding: 'late-1', settled: 'We slow down there' }
    const list = findings([change('late', same), change('late', same), change('late')])
    expect(list).toHaveLength(2)
    expect(list.map((f) => f.changes.length).sort()).toEqual([1, 2])
    const two = list.find((f) => f.changes.length === 2)
    expect(two?.title).toBe('Lead: 2 changes late')
    expect(two?.settled).toBe('We slow down there')
  })

  test('that cannot be made goes by its reason, whatever its name, settled ones apart', () => {
    const why = { reason: 'No switch takes Rotor to on.' }
    const list = findings([
      change('impossible', why),
      change('impossible', why),
      change('impossible', { ...why, settled: 'We leave it' }),
      change('impossible', { reason: 'No recipe.' }),
    ])
    expect(list.map((f) => f.changes.length)).toEqual([2, 1, 1])
  })

  test('stands worst first, and the latest of the late ones', () => {
    const list = findings([
      change('impossible'),
      change('late', { slack_s: -0.1 }),
      change('by_hand'),
      change('late', { slack_s: -0.9 }),
    ])
    const order = list.map((f) => f.worst.verdict)
    expect(order.indexOf('impossible')).not.toBe(order.indexOf('late'))
    const late = list.filter((f) => f.worst.verdict === 'late').map((f) => f.worst.slack_s)
    expect(late).toEqual([-0.9, -0.1])
  })
})

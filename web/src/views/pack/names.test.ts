import { describe, expect, test } from 'vitest'
import type { JournalLine, Rig } from '../../api/types'
import { cameOf, showName } from './names'
import { idsIn } from './useBoxes'

test('a show is named by its date where it has one', () => {
  expect(showName({ name: 'Quay stage', date: '2027-06-12' })).toBe('Quay stage, 12 June 2027')
  expect(showName({ name: 'Quay stage' })).toBe('Quay stage')
  expect(showName({ name: 'Quay stage', date: 'the twelfth' })).toBe('Quay stage, the twelfth')
})

describe('what came of a line of the log', () => {
  const line = (more: Partial<JournalLine>): JournalLine => ({
    show: 's',
    show_name: 'S',
    kind: 'fault',
    index: 0,
    text: 'x',
    ...more,
  })
  test.each([
    [line({ cured: 'other lead' }), 'Cured: other lead'],
    [line({}), 'Not cured yet'],
    [line({ kind: 'before' }), ''],
    [line({ kind: 'battery' }), ''],
    [line({ kind: 'change', carries: 'Echo time to 410 ms' }), 'To be decided: Echo time to 410 ms'],
    [line({ kind: 'change' }), 'To be decided'],
    [line({ kind: 'change', keep: 'kept', carries: 'Echo time to 410 ms' }), 'Kept: Echo time to 410 ms'],
    [line({ kind: 'change', keep: 'left', carries: 'Echo time to 410 ms' }), 'That night alone'],
  ])('%o', (l, words) => expect(cameOf(l)).toBe(words))
})

test('the boxes of a rig are all that its chain, loops, lanes, destinations, feeds and programs name', () => {
  const rig = {
    id: 'r',
    name: 'R',
    floor: {},
    profile: {},
    guitars: ['gtr'],
    path: [
      { stop: 'amber/fx', switcher: 'turntable', loop: 1 },
      {
        split: {
          id: 's',
          kind: 'copy',
          from: 'mix/split',
          to: 'mix/join',
          lanes: [{ nodes: [{ stop: 'echo/fx' }] }, { nodes: [{ stop: 'room/fx' }] }],
        },
      },
    ],
    destinations: [{ id: 'd', name: 'D', kind: 'hired-amp', amp: 'head', path: [{ stop: 'di/x' }] }],
    power: [{ supply: 'lantern', output: '1', gear: ['amber'] }],
    programs: { pad: {} },
  } as unknown as Rig
  expect([...idsIn(rig)].sort()).toEqual(
    ['amber', 'di', 'echo', 'gtr', 'head', 'lantern', 'mix', 'pad', 'room', 'turntable'].sort(),
  )
  expect([...idsIn({ id: 'e', name: 'E', floor: {}, profile: {} } as unknown as Rig)]).toEqual([])
})

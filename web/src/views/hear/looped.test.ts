import { expect, test } from 'vitest'
import type { Section } from '../../api/types'
import { known, lasting, layersOf, playingOnly, recording, renamed, running, without } from './looped'

const sections = (...ids: string[]): Section[] => ids.map((id) => ({ id, label: id, sound: 'bed' }))
const plays = (list: Section[]) => list.map((s) => s.looping?.plays ?? [])

test('a new layer runs to the end, and goes whole', () => {
  const one = recording(sections('a', 'b', 'c'), 'a')
  const two = recording(one, 'b')
  expect(layersOf({ sections: two })).toEqual(['Layer 1', 'Layer 2'])
  expect(plays(two)).toEqual([[], ['Layer 1'], ['Layer 1', 'Layer 2']])
  expect(recording(recording(two, 'b'), 'a')).toEqual(sections('a', 'b', 'c'))
  expect(plays(without(two, 'a'))).toEqual([[], ['Layer 2']])
  expect(layersOf({ sections: without(two, 'c') })).toEqual(['Layer 1', 'Layer 2'])
})

test('a name is new where another is taken, and is changed wherever it stands', () => {
  const one = renamed(recording(sections('a', 'b', 'c'), 'b'), 'Layer 1', 'Layer 2')
  const two = recording(one, 'c')
  expect(layersOf({ sections: two })).toEqual(['Layer 2', 'Layer 3'])
  expect(plays(renamed(two, 'Layer 2', 'Bass'))).toEqual([[], [], ['Bass']])
})

test('what runs is switched, and what is left of nothing is nothing', () => {
  const one = recording(sections('a', 'b'), 'a')
  expect(running(one, 'b', 'Layer 1', false)[1]?.looping).toBeUndefined()
  expect(plays(running(running(one, 'b', 'Layer 1', false), 'b', 'Layer 1', true))).toEqual([[], ['Layer 1']])
  expect(lasting(one, 'a', 4)[0]?.looping).toEqual({ records: 'Layer 1', bars: 4 })
  expect(playingOnly({ records: 'Bass', bars: 4 })).toBeUndefined()
  expect(playingOnly({ records: 'Bass', plays: ['Drum'] })).toEqual({ plays: ['Drum'] })
})

test('a section speaks of the layers up to it, and of those it plays before they are there', () => {
  const list = recording(recording(sections('a', 'b', 'c'), 'a'), 'c')
  expect(known(list, 'a')).toEqual(['Layer 1'])
  expect(known(running(list, 'b', 'Layer 2', true), 'b')).toEqual(['Layer 1', 'Layer 2'])
  expect(known(list, 'c')).toEqual(['Layer 1', 'Layer 2'])
})

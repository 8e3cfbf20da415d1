import { expect, it } from 'vitest'
import { moved, nudged } from './moved'

const list = ['a', 'b', 'c', 'd']
const move = (what: string[], target: string, after: boolean) =>
  moved(
    list,
    (x) => what.includes(x),
    (x) => x === target,
    after,
  ).join('')

it.each([
  [['a'], 'c', false, 'bacd'],
  [['a'], 'c', true, 'bcad'],
  [['d'], 'a', false, 'dabc'],
  [['a', 'c'], 'd', true, 'bdac'],
  [['b'], 'b', true, 'abcd'],
])('%j to %s, after %s', (what, target, after, want) => expect(move(what, target, after)).toBe(want))

it('leaves the list alone where the target is not', () => expect(move(['a'], 'z', true)).toBe('abcd'))

it('an item is moved on by so many places, and no further than the ends', () => {
  const list = ['a', 'b', 'c'].map((id) => ({ id }))
  const ids = (l: { id: string }[]) => l.map((x) => x.id).join('')
  expect(ids(nudged(list, 'a', 1))).toBe('bac')
  expect(ids(nudged(list, 'c', -1))).toBe('acb')
  expect(ids(nudged(list, 'a', -1))).toBe('abc')
  expect(ids(nudged(list, 'b', 9))).toBe('acb')
  expect(ids(nudged(list, 'gone', 1))).toBe('abc')
  expect(ids(list), 'the list it is given stays').toBe('abc')
})

import { expect, it } from 'vitest'
import { moved } from './moved'

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

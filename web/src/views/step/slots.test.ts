import { describe, expect, it } from 'vitest'
import type { Rig } from '../../api/types'
import { inOrder, withProgramAt } from './slots'

const program = (sound: string) => ({ sound, label: sound.toUpperCase() })
const rig = (programs: Rig['programs']) => ({ id: 'r', programs }) as Rig
const at = (bank: string, slot: string) => ({ bank, slot })

describe('programs on slots', () => {
  it('counts slots as a device does', () => {
    expect(['10', '2', 'b', 'A', '1'].sort(inOrder)).toEqual(['1', '2', '10', 'A', 'b'])
  })

  it('moves a program to an empty slot, and forgets a bank that is empty', () => {
    const before = rig({ loops: { '1': { A: program('home') } }, other: { '1': { A: program('lead') } } })
    expect(withProgramAt(before, 'loops', program('home'), at('1', 'A'), at('2', 'C')).programs).toEqual({
      loops: { '2': { C: program('home') } },
      other: { '1': { A: program('lead') } },
    })
    expect(before.programs?.loops).toEqual({ '1': { A: program('home') } })
  })

  it('changes two programs about', () => {
    const before = rig({ loops: { '1': { A: program('home'), B: program('lead') } } })
    expect(
      withProgramAt(before, 'loops', program('home'), at('1', 'A'), at('1', 'B')).programs?.loops,
    ).toEqual({
      '1': { A: program('lead'), B: program('home') },
    })
  })

  it('finds a program where it has gone to since it was seen', () => {
    const now = rig({ loops: { '1': { A: program('lead') }, '2': { B: program('home') } } })
    expect(withProgramAt(now, 'loops', program('home'), at('1', 'A'), at('1', 'C')).programs?.loops).toEqual({
      '1': { A: program('lead'), C: program('home') },
    })
  })

  it('tells two programs of one sound apart by their labels', () => {
    const other = { sound: 'home', label: 'quiet' }
    const now = rig({ loops: { '1': { A: other, B: program('home') } } })
    expect(withProgramAt(now, 'loops', program('home'), at('1', 'A'), at('1', 'C')).programs?.loops).toEqual({
      '1': { A: other, C: program('home') },
    })
  })

  it('refuses to move what is gone', () => {
    const now = rig({ loops: { '1': { A: program('lead') } } })
    expect(() => withProgramAt(now, 'loops', program('home'), at('1', 'A'), at('1', 'B'))).toThrow('gone')
    expect(() => withProgramAt(now, 'loops', undefined, at('1', 'B'), at('1', 'C'))).toThrow('gone')
    expect(() => withProgramAt(rig(undefined), 'loops', program('x'), at('1', 'A'), at('1', 'B'))).toThrow(
      'gone',
    )
  })
})

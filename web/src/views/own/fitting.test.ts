import { describe, expect, it } from 'vitest'
import type { Gear } from '../../api/types'
import { fitting } from './fitting'

const guitar = (change: Partial<Gear> = {}) =>
  ({
    id: 'g',
    controls: [{ id: 'pickup', options: ['bridge', 'both'] }],
    pickups: [{ id: 'b' }, { id: 'n' }],
    positions: [
      { is: 'bridge', pickups: ['b'] },
      { is: 'both', pickups: ['b', 'n'], reversed: ['n'] },
    ],
    blocks: [
      {
        id: 'fx',
        controls: [{ id: 'mode', options: ['soft'] }],
        model_at: [{ control: 'mode', is: 'soft', model: 'm' }],
      },
    ],
    ...change,
  }) as unknown as Gear

describe('gear that has lost a part', () => {
  it('stays as it is where nothing is lost', () => {
    const { positions, blocks } = fitting(guitar())
    expect(positions).toEqual([
      { is: 'bridge', pickups: ['b'], reversed: undefined },
      { is: 'both', pickups: ['b', 'n'], reversed: ['n'] },
    ])
    expect(blocks?.[0]?.model_at).toHaveLength(1)
  })

  it('forgets a pickup, and positions in which nothing else sounds', () => {
    expect(fitting(guitar({ pickups: [{ id: 'n' }] as Gear['pickups'] })).positions).toEqual([
      { is: 'both', pickups: ['n'], reversed: ['n'] },
    ])
    expect(fitting(guitar({ pickups: [] })).positions).toBeUndefined()
  })

  it('forgets positions that its selector does not have', () => {
    const one = [{ id: 'pickup', options: ['both'] }] as Gear['controls']
    expect(fitting(guitar({ controls: one })).positions?.map((p) => p.is)).toEqual(['both'])
    expect(fitting(guitar({ controls: undefined })).positions).toBeUndefined()
  })

  it('forgets circuits at positions of a control that is gone, and keeps those of the box itself', () => {
    const block = (controls: unknown[], control: string) =>
      [{ id: 'fx', controls, model_at: [{ control, is: 'soft', model: 'm' }] }] as unknown as Gear['blocks']
    expect(fitting(guitar({ blocks: block([], 'mode') })).blocks?.[0]?.model_at).toBeUndefined()
    const own = [{ id: 'mode', options: ['soft'] }] as Gear['controls']
    expect(fitting(guitar({ controls: own, blocks: block([], 'mode') })).blocks?.[0]?.model_at).toHaveLength(
      1,
    )
    const other = block([{ id: 'mode', options: ['hard'] }], 'mode')
    expect(fitting(guitar({ blocks: other })).blocks?.[0]?.model_at).toBeUndefined()
  })
})

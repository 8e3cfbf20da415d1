import { describe, expect, test } from 'vitest'
import type { Destination, PathNode, Recipe, Rig } from '../api/types'
import { apart, there, withBaseAt, withPath, withRecipes, withRelay } from './there'

const stop = (key: string): PathNode => ({ stop: key })
const recipe = (id: string, sound: string, values: Recipe['values'] = {}): Recipe => ({ id, sound, values })

const hired: Destination = {
  id: 'hired',
  name: 'Hired head',
  kind: 'hired-amp',
  amp: 'head',
  base: { 'head/pre/gain': 6 },
  recipes: [recipe('r2', 'lead', { 'head/pre/gain': 8 }), recipe('extra', 'dust')],
}

const rig = {
  id: 'rig',
  name: 'Rig',
  floor: {},
  profile: {},
  guitars: ['gtr'],
  path: [stop('amber/fx'), stop('combo/pre')],
  base: { 'amber/fx/drive': 4, 'gtr/volume': 8 },
  recipes: [recipe('r1', 'home'), recipe('r2', 'lead')],
  destinations: [hired, { id: 'line', name: 'Line', kind: 'mono-di', path: [stop('amber/fx')] }],
} as unknown as Rig

describe('a rig at a destination', () => {
  test('is the rig itself where it plugs in nowhere else', () => {
    expect(there(rig, undefined, undefined)).toBe(rig)
  })

  test('has the chain the server worked out, unless the destination has one of its own', () => {
    const derived = [stop('amber/fx'), stop('head/pre')]
    expect(there(rig, hired, derived).path).toEqual(derived)
    expect(there(rig, hired, undefined).path).toEqual(rig.path)
    expect(there(rig, rig.destinations?.[1], derived).path).toEqual([stop('amber/fx')])
  })

  test('has its settings over those of the rig, and its recipes in their place or ahead', () => {
    const at = there(rig, hired, undefined)
    expect(at.base).toEqual({ 'amber/fx/drive': 4, 'gtr/volume': 8, 'head/pre/gain': 6 })
    expect(at.recipes?.map((r) => r.id)).toEqual(['extra', 'r1', 'r2'])
    expect(at.recipes?.[2]?.values).toEqual({ 'head/pre/gain': 8 })
    expect(rig.recipes?.[1]?.values, 'the rig itself is not changed').toEqual({})
  })
})

describe('relays', () => {
  const link = (relay: string, target: string) => ({ controller: 'box', relay, target })
  const one = { controller: 'box', relay: 'one' }
  const wired = { ...rig, relays: [link('one', 'combo/pre/channel'), link('two', 'combo/verb/on')] }

  test('work what is said of the amp there, and elsewhere what they are plugged into', () => {
    const next = withRelay(wired, 'hired', one, 'head/pre/channel')
    expect(next.relays).toEqual(wired.relays)
    expect(next.destinations?.[0]?.relays).toEqual([link('one', 'head/pre/channel')])
    const at = there(next, next.destinations?.[0], undefined)
    expect(at.relays).toEqual([link('two', 'combo/verb/on'), link('one', 'head/pre/channel')])
    expect(there(next, next.destinations?.[1], undefined).relays).toEqual(wired.relays)
  })

  test('are pulled out where they are looked at, and work one thing each', () => {
    const next = withRelay(wired, 'hired', one, 'head/pre/channel')
    const out = withRelay(next, 'hired', one, undefined)
    expect(out.destinations?.[0]?.relays).toEqual([])
    expect(out.relays).toEqual([link('two', 'combo/verb/on')])
    expect(withRelay(next, 'hired', one, 'amber/fx/on').relays).toEqual([
      link('two', 'combo/verb/on'),
      link('one', 'amber/fx/on'),
    ])
    expect(withRelay(wired, undefined, one, 'head/pre/channel').relays?.[1]).toEqual(
      link('one', 'head/pre/channel'),
    )
    expect(withRelay(wired, 'line', one, undefined).destinations?.[1]).toEqual(wired.destinations?.[1])
  })
})

describe('an edit goes where what it changes is said', () => {
  const drop = (p: PathNode[]) => p.slice(1)

  test('a chain: the rig’s own, or the destination’s, which has one of its own from then on', () => {
    expect(withPath(rig, undefined, [], drop).path).toEqual([stop('combo/pre')])
    const now = [stop('amber/fx'), stop('head/pre')]
    const next = withPath(rig, 'hired', now, drop)
    expect(next.destinations?.[0]?.path).toEqual([stop('head/pre')])
    expect(next.path).toEqual(rig.path)
    expect(withPath(rig, 'line', now, drop).destinations?.[1]?.path).toEqual([])
  })

  test('a recipe: at the destination where it is set apart there, else in the rig', () => {
    const rename = (list: Recipe[]) => list.map((r) => ({ ...r, name: 'new' }))
    const at = withRecipes(rig, 'hired', 'r2', rename)
    expect(at.destinations?.[0]?.recipes?.every((r) => r.name === 'new')).toBe(true)
    expect(at.recipes).toEqual(rig.recipes)
    const own = withRecipes(rig, 'hired', 'r1', rename)
    expect(own.recipes?.map((r) => r.name)).toEqual(['new', 'new'])
    expect(own.destinations).toEqual(rig.destinations)
    expect(withRecipes(rig, undefined, 'r2', rename).recipes?.[1]?.name).toBe('new')
  })

  test('a base setting: at the destination where it has its own or its gear is only there', () => {
    const set = (key: string) => (base: Rig['base']) => ({ ...base, [key]: 1 })
    const own = withBaseAt(rig, 'hired', 'head/pre/gain', set('head/pre/gain'))
    expect(own.destinations?.[0]?.base).toEqual({ 'head/pre/gain': 1 })
    const onlyThere = withBaseAt(rig, 'hired', 'head/pre/bass', set('head/pre/bass'))
    expect(onlyThere.destinations?.[0]?.base).toEqual({ 'head/pre/gain': 6, 'head/pre/bass': 1 })
    expect(onlyThere.base).toEqual(rig.base)
    const shared = withBaseAt(rig, 'hired', 'amber/fx/drive', set('amber/fx/drive'))
    expect(shared.base).toEqual({ 'amber/fx/drive': 1, 'gtr/volume': 8 })
    const guitar = withBaseAt(rig, 'hired', 'gtr/volume', set('gtr/volume'))
    expect(guitar.base?.['gtr/volume'], 'guitars are in the rig, not in its chain').toBe(1)
    expect(withBaseAt(rig, undefined, 'amber/fx/drive', set('amber/fx/drive')).base?.['amber/fx/drive']).toBe(
      1,
    )
  })

  test('a recipe is set apart beside those that are', () => {
    const next = apart(rig, 'line', recipe('r1', 'home', { 'amber/fx/drive': 2 }))
    expect(next.destinations?.[1]?.recipes?.map((r) => r.id)).toEqual(['r1'])
    expect(next.destinations?.[0]).toEqual(hired)
  })
})

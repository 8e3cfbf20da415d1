import { describe, expect, it } from 'vitest'
import type { WholePlan } from '../api/types'
import { type Edit, withEdits, withNews } from './plan'

const nothing = { sounds: [], songs: [], bands: [], set_lists: [], rigs: [], shows: [] }
const gear = (id: string, version: number, name = id) => ({
  version,
  value: { id, name, kind: 'pedal' as const },
})
const variable = (id: string) => ({ key: `${id}/on`, gear: id, label: id, switch: true })
const plan = (at: string, list: ReturnType<typeof gear>[], more = {}) =>
  ({
    at,
    gear: list,
    ...nothing,
    variables: list.map((g) => variable(g.value.id)),
    tapes: [],
    ...more,
  }) as unknown as WholePlan
const news = (at: string, list: ReturnType<typeof gear>[], order: string[], more = {}) =>
  plan(at, list, {
    partial: true,
    order: { gear: order, sounds: [], songs: [], bands: [], set_lists: [], rigs: [], shows: [] },
    ...more,
  })

const ids = (p: WholePlan | undefined) => p?.gear.map((g) => `${g.value.id}${g.version}`)

describe('news of the plan', () => {
  const known = plan('e.3', [gear('a', 1), gear('b', 1)])
  it('replaces what was written and keeps the rest', () => {
    const next = withNews(known, news('e.4', [gear('b', 2)], ['a', 'b']))
    expect(ids(next)).toEqual(['a1', 'b2'])
    expect(next?.gear[0]).toBe(known.gear[0])
    expect(next?.at).toBe('e.4')
  })
  it('keeps what is the same in what was written', () => {
    const long = (version: number, on: boolean) => ({
      version,
      value: { id: 'long', name: 'Long', path: [{ stop: 'a/fx' }], base: { 'a/fx/on': on } },
    })
    const before = plan('e.3', [], { rigs: [long(1, true)] })
    const order = { gear: [], sounds: [], songs: [], bands: [], set_lists: [], rigs: ['long'], shows: [] }
    const next = withNews(before, news('e.4', [], [], { rigs: [long(2, false)], order }))
    expect(next?.rigs[0]?.value.base).toEqual({ 'a/fx/on': false })
    expect(next?.rigs[0]?.value.path).toBe(before.rigs[0]?.value.path)
  })
  it('takes out what has gone and puts in what came, in the order of the server', () => {
    const next = withNews(known, news('e.5', [gear('c', 1)], ['c', 'b']))
    expect(ids(next)).toEqual(['c1', 'b1'])
    expect(next?.variables.map((v) => v.gear)).toEqual(['c', 'b'])
  })
  it('is left aside when something newer is known', () => {
    expect(withNews(known, news('e.2', [gear('a', 0)], ['a']))).toBe(known)
    expect(withNews(known, plan('e.2', [gear('a', 0)]))).toBe(known)
  })
  it('does not fit when it is of another server, or something is missing', () => {
    expect(withNews(known, news('f.1', [], ['a', 'b']))).toBeUndefined()
    expect(withNews(known, news('e.9', [], ['a', 'b', 'c']))).toBeUndefined()
    expect(withNews(undefined, news('e.9', [], []))).toBeUndefined()
  })
  it('is all of it when it is whole', () => {
    expect(ids(withNews(known, plan('f.0', [gear('z', 7)])))).toEqual(['z7'])
  })
})

describe('edits on their way', () => {
  const known = plan('e.3', [gear('a', 1), gear('b', 1)], {
    undo: { id: 4, label: 'before', at: '', state: 'done' },
  })
  const edit = (label: string, amendments: Edit['amendments']): Edit => ({ key: label, label, amendments })
  const rename = (id: string, was: string, to: string) =>
    edit(`Name of ${id}`, [{ kind: 'gear', id, ops: [{ do: 'set', path: [{ key: 'name' }], was, to }] }])
  it('show one over the other', () => {
    const shown = withEdits(known, [rename('a', 'a', 'Amber'), rename('a', 'Amber', 'Ember')])
    expect(shown.gear[0]?.value.name).toBe('Ember')
    expect(shown.undo?.label).toBe('Name of a')
    expect(known.gear[0]?.value.name).toBe('a')
  })
  it('that do not fit show nothing: the server will say so', () => {
    expect(withEdits(known, [rename('a', 'other', 'Amber')]).gear).toEqual(known.gear)
    expect(withEdits(known, [rename('z', 'z', 'Amber')]).gear).toEqual(known.gear)
  })
  it('add and remove', () => {
    const add = edit('Add c', [{ kind: 'gear', id: 'c', add: gear('c', 0).value }])
    const remove = edit('Remove a', [{ kind: 'gear', id: 'a', remove: true, version: 1 }])
    const shown = withEdits(known, [add, remove, add])
    expect(ids(shown)).toEqual(['b1', 'c0'])
  })
  it('that are undo itself leave the button as it is', () => {
    expect(withEdits(known, [edit('Undo', [])]).undo?.label).toBe('before')
  })
})

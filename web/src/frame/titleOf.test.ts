import { expect, it } from 'vitest'
import type { WholePlan } from '../api/types'
import { titleOf } from './titleOf'

const plan = {
  gear: [{ version: 1, value: { id: 'amber', name: 'Amber' } }],
  shows: [{ version: 1, value: { id: 'loft', name: 'Net loft' } }],
} as unknown as WholePlan

it('names the thing, the view and the rig', () => {
  expect(titleOf('/own/amber', plan, 'Long board')).toBe('Amber, Own, Long board · Envex')
  expect(titleOf('/own/gone', plan, 'Long board')).toBe('Own, Long board · Envex')
  expect(titleOf('/pack/shows/loft', plan, undefined)).toBe('Net loft, Pack · Envex')
  expect(titleOf('/hear/songs', plan, 'Long board')).toBe('songs, Hear, Long board · Envex')
  expect(titleOf('/learn', plan, undefined)).toBe('Learn · Envex')
  expect(titleOf('/', plan, undefined)).toBe('Envex')
})

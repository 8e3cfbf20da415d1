import { describe, expect, it } from 'vitest'
import { isFrom } from '../api/client'
import { withDifferences } from './differences'

const rows = [{ cells: [1] }, { cells: [2] }, { cells: [3] }]
const answer = () => isFrom({ words: 'early', rows, left: { s: 1 } }, 'e.1', '/api/reach', 'a')

describe('an answer with what became different in it', () => {
  it('has that, and all else is the same things', () => {
    const before = answer()
    const after = withDifferences(before, 'a', [
      { field: 'words', to: 'late' },
      { field: 'rows', index: 1, to: { cells: [9] } },
      { field: 'rows', index: 2, to: { cells: [8] } },
    ]) as typeof before
    expect(after).toEqual({
      words: 'late',
      rows: [{ cells: [1] }, { cells: [9] }, { cells: [8] }],
      left: { s: 1 },
    })
    expect(after.rows[0]).toBe(rows[0])
    expect(after.left).toBe(before.left)
    expect(before.rows, 'what was there stays as it was').toEqual([
      { cells: [1] },
      { cells: [2] },
      { cells: [3] },
    ])
    expect(before.words).toBe('early')
  })

  it('is a new object even where nothing became different, since it is of a later state', () => {
    const before = answer()
    const after = withDifferences(before, 'a', [])
    expect(after).toEqual(before)
    expect(after).not.toBe(before)
  })

  it.each([
    ['of another tag', answer(), 'b', []],
    ['of no tag', { rows }, 'a', []],
    ['that is not there', undefined, 'a', []],
    ['without the list', answer(), 'a', [{ field: 'words', index: 0, to: 1 }]],
    ['whose list is shorter', answer(), 'a', [{ field: 'rows', index: 3, to: 1 }]],
  ])('is none for one %s', (_, data, since, changed) => {
    expect(withDifferences(data, since, changed)).toBeUndefined()
  })
})

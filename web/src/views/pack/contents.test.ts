import { describe, expect, it } from 'vitest'
import { inWords, sizeOf } from './contents'

const none = {
  gear: 0,
  sounds: 0,
  songs: 0,
  bands: 0,
  set_lists: 0,
  rigs: 0,
  shows: 0,
  rehearsals: 0,
  revisions: 0,
}

describe('what a database holds', () => {
  it('is counted in words, and what is not there is not said', () => {
    expect(inWords({ ...none, gear: 1, songs: 14, bands: 1 })).toBe('1 piece of gear, 14 songs, 1 band')
    expect(inWords({ ...none, rehearsals: 2 })).toBe('2 rehearsals')
    expect(inWords(none)).toBe('nothing')
  })
  it('has a size', () => {
    expect([0, 1, 168_000, 5 << 20].map(sizeOf)).toEqual(['0 kB', '1 kB', '165 kB', '5.0 MB'])
  })
})

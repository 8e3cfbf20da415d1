import { describe, expect, it } from 'vitest'
import { nameIn } from './FloorPicture'

describe('a name in a box', () => {
  it('lies along the box where it fits', () => {
    expect(nameIn('Undertow', 62, 112, 19)).toEqual({ text: 'Undertow', upright: false })
  })
  it('stands where the box is deeper than wide and the letters have grown', () => {
    expect(nameIn('Undertow', 62, 112, 30)).toEqual({ text: 'Undertow', upright: true })
  })
  it('is cut where it fits neither way, and left out where next to nothing of it would be left', () => {
    expect(nameIn('Pier combo reverb', 62, 60, 19)).toEqual({ text: 'Pier c…', upright: false })
    expect(nameIn('Room', 20, 18, 30)).toEqual({ text: '', upright: false })
  })
})

import { expect, it } from 'vitest'
import { inWords } from './heard'

it('says what is asked of an effect', () => {
  expect(inWords({ effect: 'delay', note: '1/8.', repeats: 4 })).toBe('delay 1/8., 4 repeats')
  expect(inWords({ effect: 'delay', repeats: 1 })).toBe('delay, 1 repeat')
  expect(inWords({ effect: 'reverb', size: 'large', note: '1/4' })).toBe('large reverb')
  expect(inWords({ effect: 'tremolo', note: '1/8' })).toBe('tremolo 1/8')
  expect(inWords({ effect: 'wah', size: 'small', repeats: 3 })).toBe('wah')
})

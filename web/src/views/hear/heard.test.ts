import { expect, it } from 'vitest'
import type { EffectTraits } from '../../api/effects'
import { inWords } from './heard'

const of = (effect: EffectTraits['effect'], ...asks: NonNullable<EffectTraits['asks']>): EffectTraits => ({
  effect,
  name: effect,
  mark: effect as EffectTraits['mark'],
  nature: 'time',
  asks,
})

it('says what is asked of an effect', () => {
  const delay = of('delay', 'note', 'repeats')
  expect(inWords({ effect: 'delay', note: '1/8.', repeats: 4 }, delay)).toBe('delay 1/8., 4 repeats')
  expect(inWords({ effect: 'delay', repeats: 1 }, delay)).toBe('delay, 1 repeat')
  expect(inWords({ effect: 'reverb', size: 'large', note: '1/4' }, of('reverb', 'size'))).toBe('large reverb')
  expect(inWords({ effect: 'tremolo', note: '1/8' }, of('tremolo', 'note'))).toBe('tremolo 1/8')
  expect(inWords({ effect: 'wah', size: 'small', repeats: 3 }, of('wah'))).toBe('wah')
})

it('says the effect itself while the table of effects has not come', () => {
  expect(inWords({ effect: 'delay', note: '1/8.' }, undefined)).toBe('delay')
})

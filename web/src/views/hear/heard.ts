import type { EffectTraits } from '../../api/effects'
import type { Sound } from '../../api/types'

type Effect = NonNullable<Sound['targets']['effects']>[number]

/** What is asked of an effect: delay 1/8., 4 repeats; large reverb. */
export function inWords(e: Effect, of: EffectTraits | undefined): string {
  const asks = (what: NonNullable<EffectTraits['asks']>[number]) => of?.asks?.includes(what)
  const name = [asks('size') && e.size, of?.name ?? e.effect, asks('note') && e.note]
    .filter(Boolean)
    .join(' ')
  if (!asks('repeats') || e.repeats === undefined) return name
  return `${name}, ${e.repeats} ${e.repeats === 1 ? 'repeat' : 'repeats'}`
}

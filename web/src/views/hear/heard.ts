import type { Sound } from '../../api/types'

type Effect = NonNullable<Sound['targets']['effects']>[number]

/** The effects that a sound can ask for. */
export const heard: Effect['effect'][] = [
  'delay',
  'reverb',
  'wah',
  'octave',
  'pitch',
  'compressor',
  'vibe',
  'phaser',
  'chorus',
  'flanger',
  'tremolo',
  'rotary',
  'volume',
  'fuzz',
]

/** Effects that have a rate. */
export const rates: string[] = ['tremolo', 'vibe', 'phaser', 'chorus', 'flanger', 'rotary']

/** What is asked of an effect: delay 1/8., 4 repeats; large reverb. */
export function inWords(e: Effect): string {
  const timed = e.effect === 'delay' || rates.includes(e.effect)
  const name = [e.effect === 'reverb' && e.size, e.effect, timed && e.note].filter(Boolean).join(' ')
  if (e.effect !== 'delay' || e.repeats === undefined) return name
  return `${name}, ${e.repeats} ${e.repeats === 1 ? 'repeat' : 'repeats'}`
}

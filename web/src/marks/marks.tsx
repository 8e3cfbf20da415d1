import { type EffectTraits, useEffects } from '../api/effects'
import type { Verdict } from '../api/types'

const words: Record<Verdict, string> = {
  in_time: 'in time',
  tight: 'tight',
  late: 'late',
  by_hand: 'by hand',
  impossible: 'impossible',
  not_set: 'not set yet',
}

/** A verdict in words. */
export const verdictWords = (v: Verdict) => words[v]

/** The shape of a verdict: small dot in time, hollow diamond tight, filled triangle late,
 * square H by hand, crossed circle impossible, dotted circle not set yet. */
export function VerdictMark({ verdict, size = 14 }: { verdict: Verdict; size?: number }) {
  const red = 'var(--red)'
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" focusable="false">
      {verdict === 'in_time' && <circle cx="8" cy="8" r="2" fill="var(--muted)" />}
      {verdict === 'tight' && (
        <path
          d="M8 2l6 6-6 6-6-6z"
          fill="none"
          stroke="var(--text)"
          strokeWidth="1.8"
          strokeLinejoin="round"
        />
      )}
      {verdict === 'late' && <path d="M8 1.5L15.5 15H.5z" fill={red} />}
      {verdict === 'by_hand' && (
        <>
          <rect x="1" y="1" width="14" height="14" fill="var(--text)" />
          <path d="M5 4v8M11 4v8M5 8h6" stroke="var(--bg)" strokeWidth="2" fill="none" />
        </>
      )}
      {verdict === 'not_set' && (
        <circle
          cx="8"
          cy="8"
          r="6"
          fill="none"
          stroke="var(--muted)"
          strokeWidth="1.6"
          strokeDasharray="2 2.7"
        />
      )}
      {verdict === 'impossible' && (
        <>
          <circle cx="8" cy="8" r="6.2" fill="none" stroke={red} strokeWidth="2" />
          <path d="M4 4l8 8M12 4l-8 8" stroke={red} strokeWidth="2" />
        </>
      )}
    </svg>
  )
}

// Each kind of effect as what it does to a line, drawn on a 24 by 16 field.
const strokes: Record<EffectTraits['mark'] | 'guitar', string> = {
  tuner: 'M12 2v12M6 8h12',
  volume: 'M3 14L21 3v11z',
  wah: 'M3 13C8 13 9 3 12 3s4 10 9 10',
  pitch: 'M4 13V6M4 6l4-3v7M14 13V4M14 4l6-1v7',
  octave: 'M4 4h16M4 8h10M4 12h5',
  compressor: 'M3 13L10 6h11',
  gate: 'M3 13h6V4h6v9h6',
  boost: 'M5 14v-3M10 14V9M15 14V6M20 14V3',
  overdrive: 'M3 12c3 0 3-8 6-8h2c3 0 3 8 6 8s2-2 4-2',
  distortion: 'M3 13l3-9h5l3 9h4l3-9',
  fuzz: 'M3 13V4h6v9h6V4h6',
  eq: 'M5 3v10M3 9h4M12 3v10M10 5h4M19 3v10M17 10h4',
  vibe: 'M3 8c2-6 4-6 6 0s4 6 6 0 4-6 6 0',
  phaser: 'M3 4c6 0 6 9 9 9s3-9 9-9',
  chorus: 'M3 6c4-4 6 4 9 0s6-4 9 0M3 12c4-4 6 4 9 0s6-4 9 0',
  flanger: 'M3 4c6 2 12 2 18 0M3 12c6-2 12-2 18 0',
  tremolo: 'M4 8v0M8 5v6M12 2v12M16 5v6M20 8v0',
  rotary: 'M12 3a5 5 0 1 1-5 5M12 8l5-3',
  delay: 'M4 14V3M10 14V6M15 14V9M20 14v-3',
  reverb: 'M4 14V3M7 14V5M10 14V8M13 14v-4M16 14v-3M19 14v-2',
  looper: 'M18 5a7 5 0 1 0 1 5M18 2v4h-4',
  preamp: 'M5 14L12 2l7 12z',
  power: 'M4 13h16M6 13V5h12v8',
  cab: 'M4 2h16v12H4zM12 5a3 3 0 1 1 0 6 3 3 0 0 1 0-6z',
  buffer: 'M6 3v10l12-5z',
  di: 'M3 8h6M15 5h6M15 11h6M9 4h6v8H9z',
  splitter: 'M3 8h7l8-5M10 8l8 5',
  mixer: 'M3 3l8 5h10M3 13l8-5',
  acoustic: 'M9 8a4 4 0 1 0 6 0 3 3 0 1 0-6 0z',
  radio: 'M12 8v6M8 4a6 6 0 0 1 8 0M5 1a10 10 0 0 1 14 0',
  speaker: 'M5 2h14v12H5zM12 4.500a3.500 3.500 0 1 1 0 7 3.500 3.500 0 0 1 0-7zM12 7.500v1',
  load: 'M3 8h4l1-3 2 6 2-6 2 6 2-6 1 3h4',
  mute: 'M4 6h3l4-4v12l-4-4H4zM15 5l6 6M21 5l-6 6',
  sum: 'M18 4V2H6l6 6-6 6h12v-2',
  guitar: 'M4 13c-2-4 2-7 5-5l9-6 2 2-8 7c1 4-5 6-8 2z',
}

export function EffectMark({ effect }: { effect: string }) {
  const mark = useEffects().get(effect)?.mark
  return (
    <svg width="30" height="20" viewBox="0 0 24 16" aria-hidden="true" focusable="false">
      <path
        d={mark ? strokes[mark] : effect === 'guitar' ? strokes.guitar : 'M3 8h18'}
        fill="none"
        stroke="currentColor"
        strokeWidth="1.6"
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}

const shapes = {
  undo: 'M7 3L3 7l4 4M3 7h8a4 4 0 0 1 0 8H8',
  redo: 'M9 3l4 4-4 4M13 7H5a4 4 0 0 0 0 8h3',
  find: 'M7 2a5 5 0 1 1 0 10A5 5 0 0 1 7 2zM11 11l4 4',
  sun: 'M8 5a3 3 0 1 1 0 6 3 3 0 0 1 0-6zM8 1v2M8 13v2M1 8h2M13 8h2M3 3l1.5 1.5M11.500 11.500L13 13M13 3l-1.500 1.500M4.500 11.500L3 13',
  moon: 'M12 10A6 6 0 0 1 6 3a6 6 0 1 0 6 7z',
  more: 'M3 8h.01M8 8h.01M13 8h.01',
  plus: 'M8 3v10M3 8h10',
  up: 'M8 13V3M4 7l4-4 4 4',
  down: 'M8 3v10M4 9l4 4 4-4',
  grip: 'M6 4h.01M10 4h.01M6 8h.01M10 8h.01M6 12h.01M10 12h.01',
  cross: 'M4 4l8 8M12 4l-8 8',
  copy: 'M5 5h8v8H5zM3 11V3h8',
}

export function Icon({ name }: { name: keyof typeof shapes }) {
  const dots = name === 'more' || name === 'grip'
  return (
    <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true" focusable="false">
      <path
        d={shapes[name]}
        fill="none"
        stroke="currentColor"
        strokeWidth={dots ? 2.6 : 1.6}
        strokeLinecap="round"
        strokeLinejoin="round"
      />
    </svg>
  )
}

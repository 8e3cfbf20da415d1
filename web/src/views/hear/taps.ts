/** Taps of one hand, in ms, the last nine at most, and the tempo that they give. */
export interface Taps {
  at: number[]
  /** The median of the gaps, so that one early tap does not spoil it; undefined for one tap. */
  bpm?: number
  /** Whether there are taps enough, of a tempo that a song can have. */
  sure: boolean
}

const pauseMs = 2000

/** One tap more. After a pause it is the first. */
export function tapped(before: number[], now: number): Taps {
  const last = before.at(-1)
  const at = last !== undefined && now - last < pauseMs ? [...before.slice(-8), now] : [now]
  const gaps = at.slice(1).map((t, i) => t - (at[i] ?? t))
  const middle = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)]
  if (middle === undefined) return { at, sure: false }
  const bpm = Math.round(60000 / middle)
  return { at, bpm, sure: gaps.length >= 3 && bpm >= 20 && bpm <= 400 }
}

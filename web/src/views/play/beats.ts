import type { PlaySong } from '../../api/types'

/** A click: when, in the song, and whether it begins a bar. */
export interface Click {
  at: number
  first: boolean
  countIn: boolean
  /** How many clicks into the bar, from 1. */
  beat: number
}

/** Every click of a song: a bar counted in, then each beat of each section at its own tempo. */
export function clicksOf(song: PlaySong): Click[] {
  const first = song.sections[0]
  if (!first) return []
  const list: Click[] = []
  for (let n = 0; n < song.beats; n += 1)
    list.push({ at: (n - song.beats) * first.beat_s, first: n === 0, countIn: true, beat: n + 1 })
  for (const s of song.sections) {
    const count = Math.round(s.length_s / s.beat_s)
    for (let n = 0; n < count; n += 1)
      list.push({
        at: s.at_s + n * s.beat_s,
        first: n % song.beats === 0,
        countIn: false,
        beat: (n % song.beats) + 1,
      })
  }
  return list
}

/** The section of a moment: the first before the song, the last after it. */
export function sectionAt(song: PlaySong, at: number): number {
  let i = 0
  song.sections.forEach((s, k) => {
    if (at >= s.at_s - 1e-9) i = k
  })
  return i
}

/** The section whose change is next: the one under way, else the one to come. */
export function dueOf(song: PlaySong, here: number, at: number, walking: boolean) {
  const now = song.sections[here]
  const due = walking || (now && at <= now.until_s) ? now : undefined
  const takes = due && (due.presses.length > 0 || due.by_hand.length > 0)
  return takes || walking ? due : song.sections[here + 1]
}

/** The presses that are next. */
export function todoOf(song: PlaySong, here: number, at: number, walking: boolean): string[] {
  return (dueOf(song, here, at, walking)?.presses ?? []).map((p) => p.switch)
}

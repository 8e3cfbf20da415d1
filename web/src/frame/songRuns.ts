import type { ReachSection } from '../api/types'

/** A song of the night, with its sections. */
export interface SongRun {
  key: string
  title: string
  bpm: number
  sections: ReachSection[]
}

export function songs(sections: ReachSection[]): SongRun[] {
  const runs: SongRun[] = []
  for (const s of sections) {
    const last = runs[runs.length - 1]
    if (last && last.key === s.entry) last.sections.push(s)
    else runs.push({ key: s.entry, title: s.song, bpm: s.bpm, sections: [s] })
  }
  return runs
}

import type { components } from '../../api/schema.gen'
import type { Step } from './tonight'

export type Cue = components['schemas']['NightCue']
export type Sent = Cue['sends'][number]

/** A message that went out, and what came back. */
export interface Line {
  to: string
  words: string
  bytes: string
  /** Right where the device said the same, wrong where it said another; nothing where it says nothing, or has not yet. */
  answer?: 'right' | 'wrong'
  said?: string
}

/** What has to be sent after what was sent before: what is there already stays. It notes what it gives. */
export function news(before: Map<string, string>, sends: Sent[] | undefined): Sent[] {
  const list: Sent[] = []
  for (const s of sends ?? []) {
    if (!s.bytes || before.get(s.moves) === s.bytes) continue
    before.set(s.moves, s.bytes)
    list.push(s)
  }
  return list
}

/** The cue of each step; an empty one where it is not known. */
export const inStep = (steps: Step[], cues: Cue[]): Cue[] =>
  steps.map(
    ({ entry, section }) =>
      cues.find((c) => c.entry === entry && c.section === section) ?? {
        entry,
        section,
        sends: [],
        ready: [],
      },
  )

/** Bytes as a person reads them, and back. */
export const hexOf = (bytes: Iterable<number>) =>
  Array.from(bytes, (b) => b.toString(16).toUpperCase().padStart(2, '0')).join(' ')
export const bytesOf = (hex: string) =>
  hex
    .split(' ')
    .filter(Boolean)
    .map((x) => Number.parseInt(x, 16))

/** Puts an answer to the line that it answers: the first without one on the same channel that says the same kind of thing. */
export function answered(lines: Line[], said: string): Line[] {
  const [status] = bytesOf(said)
  const at = lines.findIndex((l) => !l.answer && bytesOf(l.bytes)[0] === status)
  return lines.map((l, i) => (i === at ? { ...l, said, answer: l.bytes === said ? 'right' : 'wrong' } : l))
}

const start = 0xfa
const goOn = 0xfb
const stop = 0xfc
const tick = 0xf8

/** Follows a show by what a MIDI line says: a clock counts through the sections of a song, a program change comes to the
 * section that has it. */
export class Follower {
  private ticks = 0
  private running = false
  private status = 0

  /** The step that a byte leads to from another, if it leads on. */
  hear(byte: number, here: number, steps: Step[], cues: Cue[]): number | undefined {
    if (byte === tick) return this.counted(here, steps)
    if (byte === start) {
      this.ticks = 0
      this.running = true
      // A clock that starts again at the end of a song begins the next.
      const next = steps[here + 1]
      return this.over && next && next.entry !== steps[here]?.entry ? this.arrived(here + 1) : undefined
    }
    if (byte === goOn || byte === stop) {
      this.running = byte === goOn
      return undefined
    }
    if (byte > 0xf8) return undefined
    if (byte >= 0x80) {
      this.status = byte >= 0xf0 ? 0 : byte
      return undefined
    }
    return (this.status & 0xf0) === 0xc0 ? this.program(hexOf([this.status, byte]), here, cues) : undefined
  }

  /** Something else has come to another step: it is counted from there. */
  moved() {
    this.ticks = 0
    this.over = false
  }

  private over = false

  private arrived(step: number): number {
    this.moved()
    return step
  }

  private counted(here: number, steps: Step[]): number | undefined {
    const clocks = steps[here]?.clocks
    if (!this.running || !clocks) return undefined
    this.ticks += 1
    if (this.ticks < clocks) return undefined
    if (steps[here + 1]?.entry === steps[here]?.entry) return this.arrived(here + 1)
    this.over = true
    return undefined
  }

  private program(bytes: string, here: number, cues: Cue[]): number | undefined {
    const has = (i: number) => cues[i]?.sends.some((s) => s.bytes === bytes) ?? false
    for (let k = 1; k <= cues.length; k += 1) {
      const i = (here + k) % cues.length
      if (has(i) && (i === 0 || !has(i - 1))) return i === here ? undefined : this.arrived(i)
    }
    return undefined
  }
}

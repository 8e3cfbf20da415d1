/** One look at both clocks: milliseconds of the page's clock, by which input is stamped, and seconds of
 * the audio clock, by which beats are heard. */
export interface Look {
  page: number
  audio: number
}

/** Maps time stamps of input to the audio clock. Two clocks part by some parts in a million, so the map
 * is a straight line through the latest looks and is estimated anew with each. */
export class ClockMap {
  private looks: Look[] = []
  private readonly keep: number

  constructor(keep = 120) {
    this.keep = keep
  }

  look(page: number, audio: number) {
    const last = this.looks[this.looks.length - 1]
    if (last && (page <= last.page || audio < last.audio)) return // a clock that stood still says nothing
    this.looks.push({ page, audio })
    if (this.looks.length > this.keep) this.looks.shift()
  }

  /** The audio clock at a time stamp of the page; undefined before the first look. */
  audioAt(page: number): number | undefined {
    const n = this.looks.length
    const first = this.looks[0]
    const last = this.looks[n - 1]
    if (!first || !last) return undefined
    if (n < 3) return last.audio + (page - last.page) / 1000
    // Means are taken from the latest look, so that an hour of milliseconds loses no digits.
    let sx = 0
    let sy = 0
    for (const l of this.looks) {
      sx += l.page - last.page
      sy += l.audio - last.audio
    }
    const mx = sx / n
    const my = sy / n
    let top = 0
    let foot = 0
    for (const l of this.looks) {
      const x = l.page - last.page - mx
      top += x * (l.audio - last.audio - my)
      foot += x * x
    }
    const rate = foot > 0 ? top / foot : 1 / 1000
    return last.audio + my + rate * (page - last.page - mx)
  }
}

/** How late a player taps along, in seconds: the median of taps against the beats they are nearest to.
 * Undefined where there are too few, or they scatter too much to be a latency. */
export function latencyOf(taps: number[], beats: number[]): number | undefined {
  const off = taps
    .map((t) =>
      beats.map((b) => t - b).reduce((a, b) => (Math.abs(b) < Math.abs(a) ? b : a), Number.POSITIVE_INFINITY),
    )
    .filter(Number.isFinite)
    .sort((a, b) => a - b)
  const middle = off[Math.floor(off.length / 2)]
  if (off.length < 6 || middle === undefined) return undefined
  const spread = off.map((o) => Math.abs(o - middle)).sort((a, b) => a - b)[Math.floor(off.length / 2)] ?? 0
  return spread > 0.06 ? undefined : middle
}

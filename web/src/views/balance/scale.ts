/** Even steps for an axis that covers a range, so that about so many lines are drawn. */
export function ticks(low: number, high: number, about: number): number[] {
  if (high <= low) return [low]
  const rough = (high - low) / about
  const power = 10 ** Math.floor(Math.log10(rough))
  const step = [1, 2, 5, 10].map((k) => k * power).find((s) => s >= rough) ?? power * 10
  const list: number[] = []
  for (let x = Math.ceil(low / step - 1e-9) * step; x <= high + 1e-9; x += step)
    list.push(Math.round(x * 1e6) / 1e6 + 0)
  return list
}

/** A straight scale from values to places. */
export const scale = (low: number, high: number, from: number, to: number) => (x: number) =>
  from + ((x - low) / (high - low)) * (to - from)

/** A scale on which every octave is as wide. */
export const octaves = (low: number, high: number, from: number, to: number) => {
  const along = scale(Math.log(low), Math.log(high), from, to)
  return (hz: number) => along(Math.log(hz))
}

/** A frequency in words. */
export const hertz = (hz: number) =>
  hz >= 1000 ? `${(hz / 1000).toFixed(hz >= 10000 ? 1 : 2)}\u00a0kHz` : `${hz.toFixed(0)}\u00a0Hz`

/** A number with its sign, a real minus. */
export const signed = (x: number, digits = 1) => {
  const text = Math.abs(x).toFixed(digits)
  return Number(text) === 0 ? text : `${x > 0 ? '+' : '−'}${text}`
}

/** The point of a grid that is nearest to a frequency. */
export function nearest(grid: { f_hz: number }[], hz: number): number {
  let best = -1
  grid.forEach((p, i) => {
    if (best < 0 || Math.abs(Math.log(p.f_hz / hz)) < Math.abs(Math.log((grid[best]?.f_hz ?? 1) / hz)))
      best = i
  })
  return best
}

/** The bands that a sound is told in. */
export const bandNames = ['80–250 Hz', '250–800 Hz', '800 Hz–3 kHz', '3–8 kHz']

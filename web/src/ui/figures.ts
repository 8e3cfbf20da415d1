/** A frequency in words. */
export const hertz = (hz: number) =>
  hz >= 1000 ? `${(hz / 1000).toFixed(hz >= 10000 ? 1 : 2)}\u00a0kHz` : `${hz.toFixed(0)}\u00a0Hz`

/** A number with its sign, a real minus. */
export const signed = (x: number, digits = 1) => {
  const text = Math.abs(x).toFixed(digits)
  return Number(text) === 0 ? text : `${x > 0 ? '+' : '−'}${text}`
}

/** The bands that a sound is told in. */
export const bandNames = ['80–250 Hz', '250–800 Hz', '800 Hz–3 kHz', '3–8 kHz']

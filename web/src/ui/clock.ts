// How a knob's position is said on a clock face: 7 o'clock is the least, 5 o'clock the
// most, 300 degrees apart. A plain number is a number.

/** "2:30" for a position, to the nearest quarter of an hour. */
export function clockOf(value: number, min: number, max: number): string {
  const hours = 7 + ((value - min) / (max - min)) * 10
  const quarters = Math.round(hours * 4)
  const hour = ((Math.floor(quarters / 4) - 1) % 12) + 1
  const minutes = (quarters % 4) * 15
  return minutes === 0 ? `${hour} o’clock` : `${hour}:${String(minutes).padStart(2, '0')}`
}

/** Reads "7", "2:30" or "2 o'clock"; gives a sentence when it is none of them. */
export function readKnob(text: string, min: number, max: number, clock: boolean): number | string {
  const t = text.trim().replace('’', "'").toLowerCase()
  if (t === 'noon' && clock) return (min + max) / 2
  const face = /^(\d{1,2})(?::(\d{2}))?\s*(o'?clock)?$/.exec(t)
  if (clock && face && (face[2] !== undefined || face[3] !== undefined)) {
    const hour = Number(face[1])
    const minutes = Number(face[2] ?? 0)
    if (hour < 1 || hour > 12 || minutes > 59) return 'A clock goes from 1 to 12.'
    const since7 = (hour + 5) % 12
    const at = since7 + minutes / 60
    if (at > 10) return 'Knobs stop at 5 o’clock.'
    return min + (at / 10) * (max - min)
  }
  const n = Number(t.replace(',', '.'))
  if (t === '' || Number.isNaN(n)) return clock ? 'A number or a time, like 2:30.' : 'A number, please.'
  if (n < min || n > max) return `From ${min} to ${max}.`
  return n
}

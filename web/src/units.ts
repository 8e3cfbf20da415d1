/** How loud something is over something else, in dB to one decimal, for a size in per cent of it. */
export const decibelsOf = (percent: number): number => Math.round(200 * Math.log10(percent / 100)) / 10

/** The size in per cent for decibels. */
export const percentOf = (db: number): number => Math.round(100 * 10 ** (db / 20))

export type Roll = (n: number) => number

/** Numbers under n that follow from a seed. */
export function dice(seed: number): Roll {
  let state = seed >>> 0
  return (n) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return Math.floor((state / 2 ** 32) * n)
  }
}

/** Has everything that is to be told run in one task, so that it is drawn once and not once for each. */
export function inOneTask(): (callback: () => void) => void {
  let waiting: (() => void)[] = []
  return (callback) => {
    waiting.push(callback)
    if (waiting.length > 1) return
    setTimeout(() => {
      const all = waiting
      waiting = []
      for (const one of all) one()
    })
  }
}

import { startTransition, useEffect, useState } from 'react'

/** The beginning of a list, and soon all of it: a few more each time the page has been drawn, so that a long list of fields
 * does not hold up the hand. Once it is all there it stays so. */
export function useGrowing<T>(list: T[], by: number, atOnce = false): T[] {
  const [shown, setShown] = useState(atOnce ? Number.POSITIVE_INFINITY : by)
  const done = shown >= list.length
  useEffect(() => {
    if (done) {
      setShown(Number.POSITIVE_INFINITY)
      return
    }
    const next = requestAnimationFrame(() => startTransition(() => setShown(shown + by)))
    return () => cancelAnimationFrame(next)
  }, [done, shown, by])
  return done ? list : list.slice(0, shown)
}

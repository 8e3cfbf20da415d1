import { type RefObject, useLayoutEffect, useRef, useState } from 'react'

/** How wide a drawing is on the screen, in px, so that it is drawn one to one and its letters keep their size. It is known
 * before the first painting. */
export function useWidth<T extends Element>(before: number): [RefObject<T | null>, number] {
  const at = useRef<T>(null)
  const [width, setWidth] = useState(before)
  useLayoutEffect(() => {
    const box = at.current
    if (!box) return
    const measure = () => {
      // An SVG has no inner width of its own; what it stands in has.
      const px = Math.floor(box.getBoundingClientRect().width)
      if (px > 0) setWidth(px)
    }
    measure()
    const seen = new ResizeObserver(measure)
    seen.observe(box)
    return () => seen.disconnect()
  }, [])
  return [at, width]
}

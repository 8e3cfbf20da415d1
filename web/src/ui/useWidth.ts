import { type RefCallback, useLayoutEffect, useState } from 'react'

/** How wide a drawing is on the screen, in px, so that it is drawn one to one and its letters keep their size. It is known
 * before the first painting, whenever what is measured comes. */
export function useWidth<T extends Element>(before: number): [RefCallback<T>, number] {
  const [box, setBox] = useState<T | null>(null)
  const [width, setWidth] = useState(before)
  useLayoutEffect(() => {
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
  }, [box])
  return [setBox, width]
}

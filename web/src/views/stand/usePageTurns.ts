import { useEffect } from 'react'

const ahead = new Set(['ArrowRight', 'ArrowDown', 'PageDown', ' ', 'Enter'])
const back = new Set(['ArrowLeft', 'ArrowUp', 'PageUp'])

/** The keys that a page-turn pedal sends. */
export function usePageTurns(active: boolean, here: number, go: (to: number) => void) {
  useEffect(() => {
    if (!active) return
    const hear = (e: KeyboardEvent) => {
      if (e.altKey || e.ctrlKey || e.metaKey || e.repeat) return
      const own = e.target instanceof Element && e.target.closest('button, input, textarea, select, a')
      if (own && (e.key === ' ' || e.key === 'Enter' || own.matches('input, textarea, select'))) return
      if (ahead.has(e.key)) go(here + 1)
      else if (back.has(e.key)) go(here - 1)
      else return
      e.preventDefault()
    }
    addEventListener('keydown', hear)
    return () => removeEventListener('keydown', hear)
  }, [active, here, go])
}

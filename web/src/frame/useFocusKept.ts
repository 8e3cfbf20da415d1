import { useEffect } from 'react'

/** Where the focus was: the thing, what it stood in from the inside out, and what could be reached beside it. */
interface Place {
  at: Element
  within: Element[]
  beside: HTMLElement[]
  index: number
}

const reachable =
  'button:not([disabled]), a[href], input:not([disabled]), select:not([disabled]), textarea:not([disabled]), [tabindex]'

const canTake = (e: HTMLElement) =>
  e.isConnected && !e.matches('[disabled], [tabindex="-1"]') && e.checkVisibility()

/** How many places are remembered: a dialog closes to a button that may have gone as well. */
const remembered = 6

/** Keeps the focus in the work. When what has it goes away, or is switched off, by an edit or because it is done, the focus
 * goes to what stood beside it, else to the nearest thing around it that is left; never to the page, where the next Tab
 * would begin from the top. */
export function useFocusKept() {
  useEffect(() => {
    let places: Place[] = []
    const note = (e: FocusEvent) => {
      const at = e.target
      if (!(at instanceof Element)) return
      const within: Element[] = []
      for (let up = at.parentElement; up && up !== document.body; up = up.parentElement) within.push(up)
      // Beside it is what stands in the smallest thing around it with something else to reach.
      const around = within.find((w) => w.querySelectorAll(reachable).length > 1)
      const beside = around ? [...around.querySelectorAll<HTMLElement>(reachable)] : []
      places = [{ at, within, beside, index: beside.indexOf(at as HTMLElement) }, ...places].slice(
        0,
        remembered,
      )
    }
    const look = () => {
      if (document.activeElement !== document.body && document.activeElement !== null) return
      const last = places[0]
      if (!last || (last.at.isConnected && !last.at.matches('[disabled]') && last.at.checkVisibility()))
        return
      for (const p of places) {
        const to =
          [...p.beside.slice(p.index + 1), ...p.beside.slice(0, Math.max(0, p.index)).reverse()].find(
            canTake,
          ) ??
          p.within
            .filter((w) => w.isConnected)
            .map((w) =>
              w instanceof HTMLElement && w.matches('main, [role=dialog]')
                ? w
                : [...w.querySelectorAll<HTMLElement>(reachable)].find(canTake),
            )
            .find(Boolean)
        if (to) return to.focus({ preventScroll: true })
      }
    }
    // What goes is looked after once the drawing is done, and whoever places the focus on purpose has done so.
    let due = 0
    const changed = new MutationObserver(() => {
      if (document.activeElement !== document.body) return
      clearTimeout(due)
      due = window.setTimeout(look, 60)
    })
    changed.observe(document.body, {
      subtree: true,
      childList: true,
      attributeFilter: ['disabled', 'hidden'],
    })
    document.addEventListener('focusin', note)
    return () => {
      clearTimeout(due)
      changed.disconnect()
      document.removeEventListener('focusin', note)
    }
  }, [])
}

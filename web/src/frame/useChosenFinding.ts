import { useCallback, useEffect, useRef } from 'react'
import { useSearchParams } from 'react-router'

const key = 'finding'

/** The finding that the address names, so that it can be sent and gone back to. */
export function useChosenFinding(): [string | undefined, (id: string) => void] {
  const [params, set] = useSearchParams()
  const choose = useCallback(
    (id: string) =>
      set((now) => {
        const next = new URLSearchParams(now)
        const at = new URLSearchParams(window.location.search).get('at') // it is written past the router
        if (at !== null) next.set('at', at)
        next.set(key, id)
        return next
      }),
    [set],
  )
  return [params.get(key) ?? undefined, choose]
}

/** What a card needs to be the one that the address names: it is brought into view when it comes to be that. */
export function useNamedCard(id: string) {
  const [chosen, choose] = useChosenFinding()
  const ref = useRef<HTMLElement>(null)
  const named = chosen === id
  useEffect(() => {
    if (named) ref.current?.scrollIntoView({ block: 'nearest' })
  }, [named])
  return { ref, named, choose: () => choose(id) }
}

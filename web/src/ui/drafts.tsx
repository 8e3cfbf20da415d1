import { createContext, type ReactNode, useContext, useMemo, useRef } from 'react'
import { useBlocker } from 'react-router'
import { Button } from './controls'
import { Plain } from './dialogs'
import { Row } from './layout'

/** Something typed that is not kept yet. */
export interface Unsaved {
  label: string
  text: string
  /** Whether it can be kept as it is: nothing was saved elsewhere meanwhile, and it was not refused. */
  ready: boolean
  keep: () => void
  drop: () => void
}

interface Drafts {
  put: (key: symbol, draft: Unsaved) => void
  clear: (key: symbol) => void
  all: () => Unsaved[]
}

const Context = createContext<Drafts | undefined>(undefined)

export function useDrafts(): Drafts {
  const drafts = useContext(Context)
  if (!drafts) throw new Error('useDrafts needs a DraftsProvider around it')
  return drafts
}

/** Knows what is typed and not kept. When a view is left it is kept, or asked about where it cannot be. */
export function DraftsProvider({ children }: { children: ReactNode }) {
  const list = useRef(new Map<symbol, Unsaved>())
  const drafts = useMemo<Drafts>(
    () => ({
      put: (key, draft) => list.current.set(key, draft),
      clear: (key) => list.current.delete(key),
      all: () => [...list.current.values()],
    }),
    [],
  )
  const blocker = useBlocker(({ currentLocation, nextLocation }) => {
    if (currentLocation.pathname === nextLocation.pathname) return false
    // To leave a field is to keep what is in it; what cannot be kept as it is, is asked about.
    for (const [key, d] of list.current) {
      if (!d.ready) continue
      d.keep()
      list.current.delete(key)
    }
    return list.current.size > 0
  })
  const leave = (act: 'keep' | 'drop') => {
    for (const d of drafts.all()) d[act]()
    list.current.clear()
    blocker.proceed?.()
  }
  return (
    <Context.Provider value={drafts}>
      {children}
      {blocker.state === 'blocked' && (
        <Plain title="Unsaved text" onClose={() => blocker.reset()}>
          {drafts.all().map((d) => (
            <p key={d.label}>
              {d.label}: “{d.text}”
            </p>
          ))}
          <Row>
            <Button $strong autoFocus onPress={() => leave('keep')}>
              Keep it and go
            </Button>
            <Button onPress={() => leave('drop')}>Drop it and go</Button>
            <Button onPress={() => blocker.reset()}>Stay here</Button>
          </Row>
        </Plain>
      )}
    </Context.Provider>
  )
}

import { createContext, type ReactNode, useContext, useEffect } from 'react'
import { isSending } from '../api/client'
import type { Desk } from './desk'
import { follow } from './follow'

const Context = createContext<Desk | undefined>(undefined)

export function useDesk(): Desk {
  const desk = useContext(Context)
  if (!desk) throw new Error('useDesk needs a DeskProvider around it')
  return desk
}

/** Keeps the edits of this page, follows what other pages do, and asks before a page is closed that
 * has edits, or a file, on their way. */
export function DeskProvider({ desk, children }: { desk: Desk; children: ReactNode }) {
  useEffect(() => follow((at) => void desk.hear(at).catch(() => undefined)), [desk])
  useEffect(() => {
    const ask = (e: BeforeUnloadEvent) => {
      if (!desk.isSettled() || isSending()) e.preventDefault()
    }
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [desk])
  return <Context.Provider value={desk}>{children}</Context.Provider>
}

import { createContext, type ReactNode, useContext } from 'react'
import type { Session } from '../api/access'

const Context = createContext<Session>({ role: 'owner', network: false, secure: false, passphrase: false })

export const SessionProvider = ({ value, children }: { value: Session; children: ReactNode }) => (
  <Context.Provider value={value}>{children}</Context.Provider>
)

/** Who this device is to the server. */
export const useWho = () => useContext(Context)

/** Whether this device is a stand: it reads, and writes notes and faults of shows. */
export const useIsStand = () => useContext(Context).role === 'stand'

import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from 'react'
import { Button } from 'react-aria-components/Button'
import styled from 'styled-components'
import type { Problem } from '../api/client'

interface Notice {
  id: number
  text: string
  details: string[]
  good: boolean
  again?: () => void
  act?: Act
}

/** What can be done about a message. */
export interface Act {
  label: string
  act: () => void
}

interface Notices {
  /** Tells why something was refused; again, where it is given, does it all the same. */
  tell: (problem: Problem, again?: () => unknown) => void
  say: (text: string, act?: Act) => void
  /** Gives back what was typed into a field that has gone without keeping it. */
  remind: (label: string, text: string) => void
}

const none = () => undefined
const Context = createContext<Notices>({ tell: none, say: none, remind: none })

export const useNotices = () => useContext(Context)

let next = 0

/** Messages that come up at the foot of the screen: what was refused and why, what was done. */
export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<Notice[]>([])
  const drop = useCallback((id: number) => setNotices((all) => all.filter((n) => n.id !== id)), [])
  const api = useMemo<Notices>(() => {
    const show = (notice: Omit<Notice, 'id'>) => {
      next += 1
      const id = next
      setNotices((all) => [...all.slice(-2), { ...notice, id }])
      if (notice.good) setTimeout(() => setNotices((all) => all.filter((n) => n.id !== id)), 5000)
    }
    return {
      say: (text, act) => show({ text, details: [], good: true, act }),
      tell: (p, again) =>
        show({ text: p.message, details: p.details.slice(0, 6).map((d) => d.message), good: false, again }),
      remind: (label, text) =>
        show({ text: `Not kept: ${label}.`, details: [`You typed: “${text}”`], good: false }),
    }
  }, [])
  return (
    <Context.Provider value={api}>
      {children}
      <Stack aria-live="assertive" role="region" aria-label="Messages">
        {notices.map((n) => (
          <Card key={n.id} $good={n.good} role={n.good ? 'status' : 'alert'}>
            <div>
              <p>{n.text}</p>
              {n.details.map((d) => (
                <p key={d}>{d}</p>
              ))}
              {n.act && (
                <Again
                  onPress={() => {
                    drop(n.id)
                    n.act?.act()
                  }}
                >
                  {n.act.label}
                </Again>
              )}
              {n.again && (
                <Again
                  onPress={() => {
                    drop(n.id)
                    n.again?.()
                  }}
                >
                  Do it anyway
                </Again>
              )}
            </div>
            <Close aria-label="Dismiss" onPress={() => drop(n.id)}>
              ×
            </Close>
          </Card>
        ))}
      </Stack>
    </Context.Provider>
  )
}

const Stack = styled.div`
  position: fixed; left: 50%; bottom: 16px; transform: translateX(-50%);
  display: grid; gap: 8px; width: min(560px, calc(100vw - 32px)); z-index: 60;
  body:has([data-stand]) & { bottom: 148px; }
`

const Card = styled.div<{ $good: boolean }>`
  display: flex; justify-content: space-between; gap: 12px; padding: 12px 14px;
  background: var(--raised); color: var(--text); border: 1px solid var(--edge);
  border-left: 6px solid ${(p) => (p.$good ? 'var(--tape-lime)' : 'var(--red)')};
`

const Again = styled(Button)`
  margin-top: 6px; border: 1px solid var(--edge); background: var(--raised); color: var(--text); min-height: 32px; padding: 4px 10px; cursor: pointer;
`
const Close = styled(Button)`
  border: 0; background: none; font-size: 20px; line-height: 1; cursor: pointer; min-width: 28px; min-height: 28px;
`

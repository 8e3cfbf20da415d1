import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from 'react'
import { Button } from 'react-aria-components/Button'
import styled from 'styled-components'
import type { Problem } from '../api/client'

interface Notice {
  id: number
  text: string
  details: string[]
  good: boolean
}

interface Notices {
  tell: (problem: Problem) => void
  say: (text: string) => void
}

const Context = createContext<Notices>({ tell: () => undefined, say: () => undefined })

export const useNotices = () => useContext(Context)

let next = 0

/** Messages that come up at the foot of the screen: what was refused and why, what was done. */
export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notices, setNotices] = useState<Notice[]>([])
  const drop = useCallback((id: number) => setNotices((all) => all.filter((n) => n.id !== id)), [])
  const api = useMemo<Notices>(() => {
    const show = (text: string, details: string[], good: boolean) => {
      next += 1
      const id = next
      setNotices((all) => [...all.slice(-2), { id, text, details, good }])
      if (good) setTimeout(() => setNotices((all) => all.filter((n) => n.id !== id)), 5000)
    }
    return {
      say: (text) => show(text, [], true),
      tell: (p) =>
        show(
          p.message,
          p.details.slice(0, 6).map((d) => d.message),
          false,
        ),
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
`

const Card = styled.div<{ $good: boolean }>`
  display: flex; justify-content: space-between; gap: 12px; padding: 12px 14px;
  background: var(--raised); color: var(--text); border: 1px solid var(--edge);
  border-left: 6px solid ${(p) => (p.$good ? 'var(--tape-lime)' : 'var(--red)')};
`

const Close = styled(Button)`
  border: 0; background: none; font-size: 20px; line-height: 1; cursor: pointer; min-width: 28px; min-height: 28px;
`

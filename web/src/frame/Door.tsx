import type { ReactNode } from 'react'
import { useLocation } from 'react-router'
import styled from 'styled-components'
import { useSession } from '../api/access'
import { SessionProvider } from '../state/role'
import { later } from '../ui/later'
import { Redirect } from './Redirect'

/** Asks who this device is before it shows anything of the plan. */
const Enter = later(() => import('./Enter').then((m) => m.Enter))

export function Door({ children }: { children: ReactNode }) {
  const { data, error } = useSession()
  const { pathname, hash } = useLocation()
  if (!data) return <Wait role={error ? 'alert' : 'status'}>{error ? error.message : 'Knocking…'}</Wait>
  const pairing = pathname === '/pair'
  if (data.network && (!data.role || (pairing && hash.length > 1))) return <Enter session={data} />
  if (pairing) return <Redirect to="/" />
  return <SessionProvider value={data}>{children}</SessionProvider>
}

const Wait = styled.p`padding: 40px;`

import { useEffect } from 'react'
import { useLocation, useNavigate } from 'react-router'

/** Goes on to another address, unless the player has gone somewhere else by the time it would: a link
 * that was pressed meanwhile is not taken back. */
export function Redirect({ to }: { to: string }) {
  const navigate = useNavigate()
  const { pathname } = useLocation()
  useEffect(() => {
    if (window.location.pathname === pathname) navigate(to, { replace: true })
  }, [navigate, pathname, to])
  return null
}

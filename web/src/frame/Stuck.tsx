import { useSyncExternalStore } from 'react'
import styled from 'styled-components'
import { useDesk } from '../edits/useDesk'

/** Says that edits wait because the server does not answer. They are sent when it does. */
export function Stuck() {
  const desk = useDesk()
  const waiting = useSyncExternalStore(desk.subscribe, desk.stuck)
  if (waiting === 0) return null
  return (
    <Bar role="alert">
      Envex does not answer. {waiting === 1 ? 'One edit waits here' : `${waiting} edits wait here`} and will
      be sent when it does; keep this page open.
    </Bar>
  )
}

const Bar = styled.div`
  position: fixed; bottom: 0; left: 0; right: 0; z-index: 55; padding: 12px 16px; text-align: center;
  background: var(--raised); color: var(--text); border-top: 4px solid var(--red);
`

import { Link, useLocation } from 'react-router'
import styled from 'styled-components'
import { useCondition } from '../api/copies'
import { useIsStand } from '../state/role'

/** Says on every screen that nothing is written, and why. */
export function ReadOnly() {
  const { data } = useCondition(!useIsStand())
  const { pathname } = useLocation()
  if (!data?.read_only) return null
  return (
    <Bar role="status" aria-label="Nothing is written">
      <b>Nothing is written.</b>{' '}
      {data.report
        ? 'The database is damaged: you see the part that is sound.'
        : `${data.database} cannot be written to. You can look at the plan and export it.`}{' '}
      {data.report && pathname !== '/rescue' && <Link to="/rescue">See what is wrong and what to do</Link>}
    </Bar>
  )
}

const Bar = styled.p`
  padding: 8px 16px; background: var(--raised); border-bottom: 3px solid var(--red); overflow-wrap: anywhere;
  a { color: var(--text); }
`

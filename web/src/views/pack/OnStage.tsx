import { Link } from 'react-router'
import styled from 'styled-components'
import type { Show } from '../../api/types'

/** The way to the page on the music stand. */
export function OnStage({ show }: { show: Show }) {
  return (
    <>
      <Way to={`/stand/${show.id}`}>On stage</Way>
      {show.others?.length ? <Plain to={`/stand/${show.id}/all`}>All stands at once</Plain> : null}
    </>
  )
}

const Plain = styled(Link)`color: var(--text); align-self: center;`
const Way = styled(Link)`
  display: inline-flex; align-items: center; justify-self: start; min-height: var(--target, 34px); padding: 4px 14px; background: var(--lit); color: var(--onLit);
  font: 600 16px/1.2 var(--face-label); text-decoration: none; text-transform: uppercase; letter-spacing: 0.03em;
`

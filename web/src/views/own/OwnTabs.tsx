import { Link, useLocation } from 'react-router'
import { Tabs } from '../../ui/layout'

/** The parts of Own: what is owned, and which of it to take. */
export function OwnTabs() {
  const { pathname } = useLocation()
  const choosing = pathname.startsWith('/own/choose')
  return (
    <Tabs aria-label="Own">
      <Link to="/own" aria-current={choosing ? undefined : 'page'}>
        Gear
      </Link>
      <Link to="/own/choose" aria-current={choosing ? 'page' : undefined}>
        Choose
      </Link>
    </Tabs>
  )
}

import { Link, useLocation } from 'react-router'
import { Muted, Stack, Title } from '../ui/layout'

/** An address that leads nowhere says so. */
export function Unknown() {
  const { pathname } = useLocation()
  return (
    <Stack>
      <Title>Nothing is here</Title>
      <Muted>
        Envex has no page at {pathname}. <Link to="/step">Step</Link> shows the night.
      </Muted>
    </Stack>
  )
}

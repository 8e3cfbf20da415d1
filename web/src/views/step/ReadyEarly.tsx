import styled from 'styled-components'
import { usePlace } from '../../state/place'
import { Heading, Muted, Panel } from '../../ui/layout'

/** What is best done during the cursor's section, and what was done for its change. */
export function ReadyEarly() {
  const { section, change, go } = usePlace()
  const now = section?.ready_early ?? []
  const before = change?.leisure ?? []
  return (
    <Panel>
      <Heading>Ready early</Heading>
      {now.length === 0 && before.length === 0 && <Muted>Nothing to prepare around here.</Muted>}
      {now.map((l) => (
        <p key={`now ${l.action}`}>
          During {section?.section}, any time: {l.action} ({l.switches.join(', ')}), for{' '}
          <Go type="button" onClick={() => go(l.for.position)}>
            {l.for.song}, {l.for.section}
          </Go>
          .
        </p>
      ))}
      {before.map((l) => (
        <p key={`before ${l.action}`}>
          For this change: {l.action}, in{' '}
          <Go type="button" onClick={() => go(l.during.position)}>
            {l.during.song}, {l.during.section}
          </Go>
          .
        </p>
      ))}
    </Panel>
  )
}

const Go = styled.button`border: 0; background: none; padding: 0; text-decoration: underline; cursor: pointer;`

import styled from 'styled-components'
import { values } from '../../api/plan'
import { usePlace } from '../../state/place'
import { Heading, Muted, Panel, Row } from '../../ui/layout'

export function Export() {
  const { plan } = usePlace()
  const parts = [
    ...values(plan, 'shows').map((s) => ({ id: s.id, name: s.name, what: 'show' })),
    ...values(plan, 'rigs').map((r) => ({ id: r.id, name: r.name, what: 'rig' })),
  ]
  return (
    <Panel aria-label="Export">
      <Heading>Export</Heading>
      <Muted>A rig or a show goes out with everything it refers to, in one open file.</Muted>
      <Row>
        <Save href="/api/export" download>
          Everything
        </Save>
        {parts.map((p) => (
          <Save key={p.id} href={`/api/export?id=${encodeURIComponent(p.id)}`} download>
            {p.name} <small>{p.what}</small>
          </Save>
        ))}
      </Row>
    </Panel>
  )
}

const Save = styled.a`
  padding: 6px 12px; border: 1px solid var(--edge); background: var(--raised); color: var(--text); text-decoration: none; min-height: 32px;
  &:hover { border-color: var(--text); }
  small { color: var(--muted); font-size: 12px; }
`

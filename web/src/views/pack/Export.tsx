import styled from 'styled-components'
import { values } from '../../api/plan'
import { useChosen } from '../../state/place'
import { Heading, Muted, Panel, Row } from '../../ui/layout'

export function Export() {
  const { plan, rig, setList } = useChosen()
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
      {setList && (
        <>
          <Muted>
            The set goes to other programs as a list, or as a MIDI file with its tempo map, markers and the
            messages of each change.
          </Muted>
          <Row>
            <Save href={`/api/export/songs?format=csv&set_list=${encodeURIComponent(setList.id)}`} download>
              {setList.name} <small>CSV</small>
            </Save>
            <Save
              href={`/api/export/songs?format=smf&set_list=${encodeURIComponent(setList.id)}${rig ? `&rig=${encodeURIComponent(rig.id)}` : ''}`}
              download
            >
              {setList.name} <small>MIDI file{rig && `, changes of ${rig.name}`}</small>
            </Save>
          </Row>
        </>
      )}
    </Panel>
  )
}

const Save = styled.a`
  padding: 6px 12px; border: 1px solid var(--edge); background: var(--raised); color: var(--text); text-decoration: none; min-height: 32px;
  &:hover { border-color: var(--text); }
  small { color: var(--muted); font-size: 12px; }
`

import styled from 'styled-components'
import { useCables } from '../../api/plan'
import type { Rig } from '../../api/types'
import { usePlace } from '../../state/place'
import { Fold } from '../../ui/Fold'
import { Figure, Muted } from '../../ui/layout'

/** Every cable the chain needs, from jack to jack. */
export function Cables({ rig }: { rig: Rig }) {
  const { destination } = usePlace()
  const { data } = useCables(rig.id, destination?.id)
  if (!data) return null
  return (
    <Fold title={`Cables (${data.runs.length}, ${data.total_m.toFixed(2)} m)`}>
      <Table>
        <caption>Derived from the chain and the floor; lengths in italics are assumed.</caption>
        <thead>
          <tr>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Length</th>
            <th scope="col">Carries</th>
          </tr>
        </thead>
        <tbody>
          {data.runs.map((r) => (
            <tr key={`${r.from.gear} ${r.from.jack} ${r.to.gear} ${r.to.jack}`}>
              <td>
                {r.from.name} <small>{r.from.jack}</small>
              </td>
              <td>
                {r.to.name} <small>{r.to.jack}</small>
              </td>
              <td>
                <Figure as={r.assumed ? 'i' : 'span'}>{r.length_m.toFixed(2)} m</Figure>
              </td>
              <td>
                {r.stereo ? 'stereo' : 'mono'}, {r.level} level
                {r.y_lead && ', by a Y lead'}
                {r.plugs === 'speaker' && ', speaker cable'}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {data.assumed?.map((a) => (
        <Muted key={a}>{a}</Muted>
      ))}
    </Fold>
  )
}

const Table = styled.table`
  border-collapse: collapse; width: 100%; font-size: 13px; margin-top: 6px;
  caption { text-align: left; color: var(--muted); padding-bottom: 6px; }
  th { text-align: left; font: 600 13px/1.2 var(--face-label); text-transform: uppercase; letter-spacing: 0.05em; color: var(--muted); }
  th, td { padding: 4px 10px 4px 0; border-bottom: 1px solid var(--line); }
  small { color: var(--muted); font-size: 12px; }
`

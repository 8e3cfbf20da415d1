import styled from 'styled-components'
import { useCables, values } from '../../api/plan'
import type { CableRun, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { Fold } from '../../ui/Fold'
import { NumberField } from '../../ui/fields'
import { Muted, Row } from '../../ui/layout'
import { Select } from '../../ui/Select'

type Lead = NonNullable<Rig['leads']>[number]

/** Every cable the chain needs, from jack to jack; what the player says of one goes before what is
 * derived. */
export function Cables({ rig }: { rig: Rig }) {
  const { destination, plan } = useChosen()
  const { data } = useCables(rig.id, destination?.id)
  const edit = useEdit()
  if (!data) return null
  const stock = values(plan, 'gear').filter((g) => g.kind === 'cable')
  const patch = (run: CableRun, more: Partial<Lead>) =>
    edit.change('rigs', rig.id, `Cable from ${run.from.name} to ${run.to.name}`, (r) => {
      const is = (l: Lead) => l.from === run.from.place && l.to === run.to.place
      const next = { ...r.leads?.find(is), from: run.from.place, to: run.to.place, ...more }
      const others = (r.leads ?? []).filter((l) => !is(l))
      return { ...r, leads: next.cable || next.length_m !== undefined ? [...others, next] : others }
    })
  return (
    <Fold title={`Cables (${data.leads}, ${data.total_m.toFixed(2)} m)`}>
      <Row>
        <Select
          label="Cables between boxes are cut from"
          value={rig.patch_cable ?? 'unknown'}
          options={[{ id: 'unknown', name: 'unknown stock' }, ...stock]}
          onChange={(id) =>
            edit.change('rigs', rig.id, 'Patch cable', (r) => ({
              ...r,
              patch_cable: id === 'unknown' ? undefined : id,
            }))
          }
        />
      </Row>
      <Table>
        <caption>
          Derived from the chain and the floor; lengths in brackets are assumed. Empty a length to have it
          derived again.
        </caption>
        <thead>
          <tr>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Length, m</th>
            <th scope="col">Cable</th>
            <th scope="col">Carries</th>
          </tr>
        </thead>
        <tbody>
          {data.runs.map((r) => {
            const lead = rig.leads?.find((l) => l.from === r.from.place && l.to === r.to.place)
            const name = `${r.from.name} ${r.from.jack} to ${r.to.name} ${r.to.jack}`
            return (
              <tr key={name}>
                <td>
                  {r.from.name} <small>{r.from.jack}</small>
                </td>
                <td>
                  {r.to.name} <small>{r.to.jack}</small>
                </td>
                <td>
                  <NumberField
                    label={`Length of ${name}`}
                    hideLabel
                    width={76}
                    value={lead?.length_m}
                    placeholder={r.assumed ? `(${r.length_m.toFixed(2)})` : r.length_m.toFixed(2)}
                    min={0}
                    max={1000}
                    onCommit={(length_m) => patch(r, { length_m })}
                  />
                </td>
                <td>
                  <Select
                    label={`Cable of ${name}`}
                    hideLabel
                    value={lead?.cable ?? 'usual'}
                    options={[{ id: 'usual', name: 'the usual' }, ...stock]}
                    onChange={(id) => patch(r, { cable: id === 'usual' ? undefined : id })}
                  />
                </td>
                <td>
                  {r.stereo ? 'stereo' : 'mono'}, {r.level} level
                  {r.y_lead && ', by a Y lead'}
                  {r.plugs === 'speaker' && ', speaker cable'}
                </td>
              </tr>
            )
          })}
        </tbody>
      </Table>
      {data.control.length > 0 && (
        <Table>
          <caption>Control leads. Power leads come with the supply.</caption>
          <thead>
            <tr>
              <th scope="col">Kind</th>
              <th scope="col">From</th>
              <th scope="col">To</th>
              <th scope="col">Length, m</th>
            </tr>
          </thead>
          <tbody>
            {data.control.map((x) => (
              <tr key={`${x.kind} ${x.from.name} ${x.from.jack} ${x.to.name}`}>
                <td>{x.kind === 'midi' ? 'MIDI' : x.kind}</td>
                <td>
                  {x.from.name} <small>{x.from.jack}</small>
                </td>
                <td>
                  {x.to.name} <small>{x.to.jack}</small>
                </td>
                <td>
                  {x.assumed ? `(${x.length_m.toFixed(2)})` : x.length_m.toFixed(2)}
                  {x.split && ', one lead with several plugs'}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
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

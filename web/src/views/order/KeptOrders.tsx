import { useState } from 'react'
import styled from 'styled-components'
import { useCables, useOrder } from '../../api/plan'
import type { OrderMove, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { OnThisRig } from '../../frame/OnThisRig'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { AskName } from '../../ui/dialogs'
import { Fold } from '../../ui/Fold'
import { Figure, Muted, Row } from '../../ui/layout'

/** Orders of the same rig that were kept, each beside the present one. */
export function KeptOrders({ rig, look }: { rig: Rig; look: (m: OrderMove | undefined) => void }) {
  const { destination } = useChosen()
  const { data } = useOrder(rig.id)
  const { data: cables } = useCables(rig.id)
  const edit = useEdit()
  const [naming, setNaming] = useState(false)
  if (!data || destination) return null
  const change = (what: string, update: (r: Rig) => Rig) => edit.change('rigs', rig.id, what, update)
  const pathOf = (name: string) => rig.orders?.find((o) => o.name === name)?.path ?? []
  return (
    <Fold title={`Kept orders (${data.kept.length})`}>
      {data.kept.length === 0 ? (
        <Muted>Keep this order under a name, change it, and see both side by side.</Muted>
      ) : (
        <Table>
          <thead>
            <tr>
              <th scope="col" aria-label="What is compared" />
              <th scope="col">As it stands</th>
              {data.kept.map((k) => (
                <th scope="col" key={k.name}>
                  {k.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Points against it</th>
              <td>
                <Figure>{data.cost}</Figure>
              </td>
              {data.kept.map((k) => (
                <td key={k.name}>
                  <Figure>{k.cost}</Figure>
                </td>
              ))}
            </tr>
            <tr>
              <th scope="row">Cable</th>
              <td>
                <Figure>{cables?.total_m.toFixed(2)} m</Figure>
              </td>
              {data.kept.map((k) => (
                <td key={k.name}>
                  <Figure>{k.cables_m.toFixed(2)} m</Figure>
                </td>
              ))}
            </tr>
            <Lists title="Moved" of={data.kept.map((k) => k.moves)} names={data.kept.map((k) => k.name)} />
            <Lists title="Mends" of={data.kept.map((k) => k.mends)} names={data.kept.map((k) => k.name)} />
            <Lists title="Brings" of={data.kept.map((k) => k.brings)} names={data.kept.map((k) => k.name)} />
            <tr>
              <th scope="row">
                <Hidden>Do</Hidden>
              </th>
              <td />
              {data.kept.map((k) => (
                <td key={k.name}>
                  <Row>
                    <OnThisRig path={pathOf(k.name)} />
                    <Button
                      aria-label={`Look at ${k.name}`}
                      onPress={() =>
                        look({ words: k.name, cost: k.cost, order: [], path: pathOf(k.name) } as OrderMove)
                      }
                    >
                      Look
                    </Button>
                    <Button
                      aria-label={`Take ${k.name}`}
                      onPress={() => {
                        look(undefined)
                        change(`Take ${k.name}`, (r) => exchanged(r, k.name))
                      }}
                    >
                      Take
                    </Button>
                    <Button
                      $plain
                      aria-label={`Forget ${k.name}`}
                      onPress={() =>
                        change(`Forget ${k.name}`, (r) => ({
                          ...r,
                          orders: r.orders?.filter((o) => o.name !== k.name),
                        }))
                      }
                    >
                      Forget
                    </Button>
                  </Row>
                </td>
              ))}
            </tr>
          </tbody>
        </Table>
      )}
      <Button onPress={() => setNaming(true)}>Keep this order</Button>
      {naming && (
        <AskName
          title="Keep this order"
          onCancel={() => setNaming(false)}
          onDone={(name) => {
            setNaming(false)
            change(`Keep the order as ${name}`, (r) => ({
              ...r,
              orders: [...(r.orders ?? []).filter((o) => o.name !== name), { name, path: r.path }],
            }))
          }}
        />
      )}
    </Fold>
  )
}

/** The rig with a kept order taken, and the one it had kept in its place. */
function exchanged(r: Rig, name: string): Rig {
  const kept = r.orders?.find((o) => o.name === name)
  if (!kept) return r
  const before = { name: 'As it was', path: r.path }
  return {
    ...r,
    path: kept.path,
    orders: [...(r.orders ?? []).filter((o) => o.name !== name && o.name !== before.name), before],
  }
}

function Lists({ title, of, names }: { title: string; of: string[][]; names: string[] }) {
  return (
    <tr>
      <th scope="row">{title}</th>
      <td />
      {of.map((list, i) => (
        <td key={names[i]}>
          {list.length === 0 ? (
            <Muted as="span">nothing</Muted>
          ) : (
            <ul>
              {list.map((x) => (
                <li key={x}>{x}</li>
              ))}
            </ul>
          )}
        </td>
      ))}
    </tr>
  )
}

const Hidden = styled.span`position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%);`
const Table = styled.table`
  border-collapse: collapse; width: 100%; font-size: 13px; margin: 6px 0 10px; table-layout: fixed;
  th { text-align: left; font: 600 14px/1.2 var(--face-label); color: var(--muted); overflow: hidden; text-overflow: ellipsis; }
  thead th:not(:first-child) { color: var(--text); }
  th:first-child { width: 84px; }
  th, td { padding: 5px 12px 5px 0; border-bottom: 1px solid var(--line); vertical-align: top; }
`

import styled from 'styled-components'
import { useEdit, useOrder } from '../api/plan'
import type { OrderFinding, OrderMove } from '../api/types'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { Caution, Figure, Muted, Row } from '../ui/layout'
import { taken } from '../views/order/taken'
import { Card } from './Card'
import { isOrder, OnThisRig } from './OnThisRig'
import { useKeep } from './useKeep'

const marks: Record<OrderFinding['gravity'], string> = {
  danger: 'Danger',
  fault: 'Fault',
  preference: '',
  notice: 'Note',
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`

/** What is to be said against the chain, worst first. */
export function OrderFindings() {
  const { rig, destination } = usePlace()
  const { data } = useOrder(rig?.id, destination?.id)
  const edit = useEdit()
  const { keep, reopen, dialog } = useKeep(rig)
  if (!rig || !data) return null
  const open = data.findings.filter((f) => !f.settled)
  const take = (m: OrderMove) =>
    void edit.change('rigs', rig.id, m.words, (r) => taken(r, destination?.id, data.path, m))
  return (
    <>
      {open.length === 0 && <Muted>Nothing to say against the order.</Muted>}
      {open.map((f) => (
        <Card key={f.id}>
          <h3>
            {marks[f.gravity] && <Mark $red={f.gravity === 'danger'}>{marks[f.gravity]}</Mark>} {f.title}
          </h3>
          <p>
            {sentence(f.reason)}
            {f.gravity === 'preference' && ` Weight ${f.weight}${f.school ? ', a matter of school' : ''}.`}
          </p>
          {f.figures?.map((x) => (
            <p key={x.name}>
              {x.name}: <Figure>{`${x.value} ${x.unit}`}</Figure>
            </p>
          ))}
          {isOrder(f) && (
            <OnThisRig
              key={f.id}
              path={f.repairs[0]?.path ?? []}
              stops={f.stops}
              begin={f === open.find(isOrder)}
            />
          )}
          {f.caution && <Caution>{f.caution}</Caution>}
          <Row>
            {f.repairs.slice(0, f.gravity === 'preference' ? 1 : 3).map((m, i) => (
              <Button key={m.words} $strong={i === 0} onPress={() => take(m)}>
                {m.words}
              </Button>
            ))}
            {f.gravity !== 'danger' && <Button onPress={() => keep(f.title, [f.id])}>Keep</Button>}
          </Row>
        </Card>
      ))}
      {data.findings
        .filter((f) => f.settled)
        .map((f) => (
          <Card key={f.id} $settled>
            <h3>{f.gravity === 'preference' ? `${f.names[1]} before ${f.names[0]}` : f.title}</h3>
            <p>Kept: {f.settled}</p>
            <Row>
              <Button onPress={() => reopen(f.title, [f.id])}>Reopen</Button>
            </Row>
          </Card>
        ))}
      {dialog}
    </>
  )
}

const Mark = styled.span<{ $red: boolean }>`
  display: inline-block; padding: 0 6px; margin-right: 2px; font: 600 13px/1.5 var(--face-label); letter-spacing: 0.04em; text-transform: uppercase;
  border: 1px solid ${(p) => (p.$red ? 'var(--red)' : 'var(--edge)')}; color: ${(p) => (p.$red ? 'var(--red)' : 'var(--muted)')};
`

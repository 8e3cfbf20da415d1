import { useState } from 'react'
import { useEdit, useOrder } from '../api/plan'
import type { OrderFinding, OrderMove } from '../api/types'
import { usePlace } from '../state/place'
import { AskName } from '../ui/AskName'
import { Button } from '../ui/controls'
import { Muted, Row } from '../ui/layout'
import { ordered } from '../views/order/chain'
import { Card } from './Card'

/** The pairs of stops that had better stand the other way round. */
export function OrderFindings() {
  const { rig } = usePlace()
  const { data } = useOrder(rig?.id)
  const edit = useEdit()
  const [keeping, keep] = useState<OrderFinding | undefined>()
  if (!rig || !data) return null
  const open = data.findings.filter((f) => !f.settled)
  const take = (m: OrderMove) => void edit.change('rigs', rig.id, m.words, (r) => ordered(r, m.order))
  const settle = (f: OrderFinding, reason: string | undefined) => {
    keep(undefined)
    const what = reason ? `Keep ${f.names[1]} before ${f.names[0]}` : `Reopen ${f.names[0]} and ${f.names[1]}`
    void edit.change('rigs', rig.id, what, (r) => ({
      ...r,
      settled: [
        ...(r.settled ?? []).filter((s) => s.finding !== f.id),
        ...(reason ? [{ finding: f.id, reason }] : []),
      ],
    }))
  }
  return (
    <>
      {open.length === 0 && <Muted>Nothing to say against the order.</Muted>}
      {open.map((f) => (
        <Card key={f.id}>
          <h3>
            {f.names[0]} before {f.names[1]}
          </h3>
          <p>
            {f.reason.charAt(0).toUpperCase() + f.reason.slice(1)}. Weight {f.weight}
            {f.school && ', a matter of school'}.
          </p>
          <Row>
            {f.repairs.slice(0, 1).map((m) => (
              <Button key={m.words} $strong onPress={() => take(m)}>
                {m.words}
              </Button>
            ))}
            <Button onPress={() => keep(f)}>Keep</Button>
          </Row>
        </Card>
      ))}
      {data.findings
        .filter((f) => f.settled)
        .map((f) => (
          <Card key={f.id} $settled>
            <h3>
              {f.names[1]} before {f.names[0]}
            </h3>
            <p>Kept: {f.settled}</p>
            <Row>
              <Button onPress={() => settle(f, undefined)}>Reopen</Button>
            </Row>
          </Card>
        ))}
      {keeping && (
        <AskName
          title="Keep it so"
          label="Why it is fine as it is"
          action="Keep"
          onDone={(reason) => settle(keeping, reason)}
          onCancel={() => keep(undefined)}
        />
      )}
    </>
  )
}

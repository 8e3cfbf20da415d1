import { useEdit, useOrder } from '../api/plan'
import type { OrderMove } from '../api/types'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { taken } from '../views/order/taken'
import { FindingCards } from './FindingCards'
import { isOrder, OnThisRig } from './OnThisRig'

/** What is to be said against the chain, worst first. */
export function OrderFindings() {
  const { rig, destination } = usePlace()
  const { data } = useOrder(rig?.id, destination?.id)
  const edit = useEdit()
  if (!rig || !data) return null
  const take = (m: OrderMove) =>
    void edit.change('rigs', rig.id, m.words, (r) => taken(r, destination?.id, data.path, m))
  return (
    <FindingCards
      rig={rig}
      findings={data.findings}
      nothing="Nothing to say against the order."
      more={(f, open) =>
        isOrder(f) && (
          <OnThisRig
            key={f.id}
            path={f.repairs[0]?.path ?? []}
            stops={f.stops}
            begin={f === open.find(isOrder)}
          />
        )
      }
      acts={(f) =>
        f.repairs.slice(0, f.gravity === 'preference' ? 1 : 3).map((m, i) => (
          <Button key={m.words} $strong={i === 0} onPress={() => take(m)}>
            {m.words}
          </Button>
        ))
      }
    />
  )
}

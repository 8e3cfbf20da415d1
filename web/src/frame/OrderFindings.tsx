import { useOrder } from '../api/plan'
import type { OrderMove, OrderWay } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { withSide } from '../state/there'
import { TakeButton } from '../ui/controls'
import { Muted } from '../ui/layout'
import { taken } from '../views/order/taken'
import { FindingCards } from './FindingCards'
import { isOrder, OnThisRig } from './OnThisRig'

/** What is to be said against the chain, worst first. */
export function OrderFindings() {
  const { rig, destination } = useChosen()
  const { data, fresh, from } = useOrder(rig?.id, destination?.id)
  const edit = useEdit()
  if (!rig || !data) return null
  const take = (m: OrderMove) =>
    edit.change('rigs', rig.id, m.words, (r) => taken(r, destination?.id, data.path, m), from)
  const choose = (w: OrderWay) =>
    edit.change('rigs', rig.id, w.words, (r) => withSide(r, w.question, w.side), from)
  return (
    <FindingCards
      rig={rig}
      findings={data.findings}
      nothing="Nothing to say against the order."
      more={(f, open) =>
        isOrder(f) && (
          <>
            {f.ways.map((w) => (
              <Muted key={w.words}>
                {w.words}: {w.why}
              </Muted>
            ))}
            <OnThisRig
              key={f.id}
              path={f.repairs[0]?.path ?? []}
              stops={f.stops}
              begin={f === open.find(isOrder)}
            />
          </>
        )
      }
      acts={(f) => (
        <>
          {f.repairs.slice(0, f.gravity === 'preference' ? 1 : 3).map((m, i) => (
            <TakeButton key={m.words} $strong={i === 0} fresh={fresh} onPress={() => take(m)}>
              {m.words}
            </TakeButton>
          ))}
          {f.ways.map((w) => (
            <TakeButton key={w.words} fresh={fresh} onPress={() => choose(w)}>
              {w.words}
            </TakeButton>
          ))}
        </>
      )}
    />
  )
}

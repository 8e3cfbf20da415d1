import { useOrder } from '../api/plan'
import type { OrderMove, OrderWay } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { withSide } from '../state/there'
import { Muted } from '../ui/layout'
import { TakeButton } from '../ui/TakeButton'
import { useLatest } from '../ui/useLatest'
import { taken } from '../views/order/taken'
import { FindingCards } from './FindingCards'
import { isOrder, OnThisRig } from './OnThisRig'

/** What is to be said against the chain, worst first. */
export function OrderFindings() {
  const { rig, destination } = useChosen()
  const { data, fresh, from } = useOrder(rig?.id, destination?.id)
  const edit = useEdit()
  // What is pressed is done to what stands then: no card is drawn anew for it.
  const latest = useLatest({ rig: rig?.id, destination: destination?.id, path: data?.path, from })
  if (!rig || !data) return null
  const take = (m: OrderMove) => {
    const now = latest.now()
    if (now.rig && now.path)
      edit.change('rigs', now.rig, m.words, (r) => taken(r, now.destination, now.path ?? [], m), now.from)
  }
  const choose = (w: OrderWay) => {
    const now = latest.now()
    if (now.rig) edit.change('rigs', now.rig, w.words, (r) => withSide(r, w.question, w.side), now.from)
  }
  return (
    <FindingCards
      rig={rig}
      findings={data.findings}
      fresh={fresh}
      nothing="Nothing to say against the order."
      isFirst={isOrder}
      more={(f, first) =>
        isOrder(f) && (
          <>
            {f.ways.map((w) => (
              <Muted key={w.words}>
                {w.words}: {w.why}
              </Muted>
            ))}
            <OnThisRig key={f.id} path={f.repairs[0]?.path ?? []} stops={f.stops} begin={first} />
          </>
        )
      }
      acts={(f) => (
        <>
          {f.repairs.slice(0, f.gravity === 'preference' ? 1 : 3).map((m, i) => (
            <TakeButton key={m.words} $strong={i === 0} onPress={() => take(m)}>
              {m.words}
            </TakeButton>
          ))}
          {f.ways.map((w) => (
            <TakeButton key={w.words} onPress={() => choose(w)}>
              {w.words}
            </TakeButton>
          ))}
        </>
      )}
    />
  )
}

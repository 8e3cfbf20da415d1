import { useState } from 'react'
import type { OrderDifference, OrderFinding, PathNode } from '../api/types'
import { useWork } from '../api/work'
import { useChosen } from '../state/place'
import { Button } from '../ui/controls'
import { ListenButton } from '../ui/ListenButton'
import { Muted, Row } from '../ui/layout'
import { idOf } from '../views/order/chain'

/** What another order does on this rig, metered, and both to be heard. */
export function OnThisRig({ path, stops, begin }: { path: PathNode[]; stops?: string[]; begin?: boolean }) {
  const { rig, destination } = useChosen()
  const [asked, ask] = useState(begin ?? false)
  if (!rig) return null
  const here = { rig: rig.id, destination: destination?.id, order: JSON.stringify(path.map(idOf)) }
  const about = stops && JSON.stringify(stops)
  if (asked) return <Metered here={here} about={about} />
  return (
    <Row>
      <Button onPress={() => ask(true)}>Meter it on this rig</Button>
      <Both order={here.order} about={about} />
    </Row>
  )
}

interface Asked {
  rig: string
  destination: string | undefined
  order: string
}

function Metered({ here, about }: { here: Asked; about: string | undefined }) {
  const work = useWork<OrderDifference>('/api/differ', { ...here, stops: about })
  const first = work.result?.sounds[0]
  return (
    <>
      {work.result && <p>On this rig, modelled: {work.result.words}</p>}
      {work.busy && <Muted role="status">Metering it on this rig, {Math.round(work.progress * 100)} %</Muted>}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      <Row>
        <Both order={here.order} about={about} of={first} />
      </Row>
    </>
  )
}

/** Both orders of a sound, to be heard: of one that differs, else of that of the section the cursor is on. */
function Both(p: { order: string; about: string | undefined; of?: { name: string; sound: string } }) {
  const { report, soundNow } = useChosen()
  if (!p.of && !report?.sections.length) return null
  // A card says nothing of that section: it need not be drawn anew when the cursor moves.
  const wish = () => {
    const here = soundNow()
    return {
      title: `${p.of?.name ?? here?.name}: both orders`,
      query: { sound: p.of?.sound ?? here?.id, order: p.order, about: p.about },
    }
  }
  return <ListenButton label="Listen to both orders" wish={wish} />
}

/** Whether a finding is one of order, whose two ways can be metered: the stops are the same. */
export const isOrder = (f: OrderFinding) => f.gravity === 'preference' && f.repairs.length > 0

import { useState } from 'react'
import type { OrderDifference, OrderFinding, PathNode } from '../api/types'
import { useWork } from '../api/work'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { ListenButton } from '../ui/ListenButton'
import { Muted, Row } from '../ui/layout'
import { idOf } from '../views/order/chain'

/** What another order does on this rig, metered, and both to be heard. */
export function OnThisRig({ path, stops, begin }: { path: PathNode[]; stops?: string[]; begin?: boolean }) {
  const { rig, destination, sound } = usePlace()
  const [asked, ask] = useState(begin ?? false)
  const order = JSON.stringify(path.map(idOf))
  const work = useWork<OrderDifference>(
    '/api/differ',
    asked && rig
      ? { rig: rig.id, destination: destination?.id, order, stops: stops && JSON.stringify(stops) }
      : undefined,
  )
  const first = work.result?.sounds[0]
  return (
    <>
      {work.result && <p>On this rig, modelled: {work.result.words}</p>}
      {work.busy && <Muted role="status">Metering it on this rig, {Math.round(work.progress * 100)} %</Muted>}
      {work.refused && <Muted role="alert">{work.refused}</Muted>}
      <Row>
        {!asked && <Button onPress={() => ask(true)}>Meter it on this rig</Button>}
        {(first || sound) && (
          <ListenButton
            label="Listen to both orders"
            title={`${first?.name ?? sound?.name}: both orders`}
            query={{ sound: first?.sound ?? sound?.id, order, about: stops && JSON.stringify(stops) }}
          />
        )}
      </Row>
    </>
  )
}

/** Whether a finding is one of order, whose two ways can be metered: the stops are the same. */
export const isOrder = (f: OrderFinding) => f.gravity === 'preference' && f.repairs.length > 0

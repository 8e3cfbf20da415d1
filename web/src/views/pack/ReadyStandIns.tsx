import type { ReactNode } from 'react'
import { useLookup } from '../../api/plan'
import type { ReadyStandIns as Found, Show } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'
import { Button } from '../../ui/controls'
import { Row, Stack } from '../../ui/layout'
import { Progress } from '../../ui/Progress'
import { StandIn } from '../order/StandIn'

/** What stands in for each pedal of a show's rig: metered first, then on paper, and each to be heard and taken. */
export function ReadyStandIns({ show, children }: { show: Show; children: ReactNode }) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const work = useWork<Found>('/api/stand-ins/ready', { show: show.id })
  const rig = find('rigs', show.rig)
  if (work.busy) return <Progress label="Trying what you own" share={work.progress} cancel={work.cancel} />
  if (work.cancelled)
    return (
      <Row>
        <Button onPress={work.again}>Try what you own</Button>
      </Row>
    )
  if (work.refused) return <p role="alert">{work.refused}</p>
  return (
    <Stack $gap={10}>
      {children}
      {work.result?.boxes.map((b) => {
        const gear = find('gear', b.box)
        return (
          rig &&
          gear && (
            <StandIn
              key={b.box}
              level={2}
              rig={rig}
              gear={gear}
              destination={show.destination}
              setList={show.set_list}
            />
          )
        )
      })}
    </Stack>
  )
}

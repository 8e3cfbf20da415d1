import styled from 'styled-components'
import type { AnyOrder } from '../../api/types'
import { useWork } from '../../api/work'
import { FloorMap } from '../../floor/FloorMap'
import { usePlace } from '../../state/place'
import { later, whenIdle } from '../../ui/later'
import { Heading, Muted, Row, Stack, Title } from '../../ui/layout'
import { ChangeCard } from './ChangeCard'
import { Roll } from './Roll'

const Below = later(whenIdle(() => import('./Below').then((m) => m.Below)))
const Beside = later(whenIdle(() => import('./Beside').then((m) => m.Beside)))

/** The roll, the presses of the cursor's change, the floor, and what to do early. */
export function Step() {
  const { report, rig, setList, destination, other, change, sound } = usePlace()
  const query = rig && setList && { rig: rig.id, set_list: setList.id, destination: destination?.id }
  const { latest: any } = useWork<AnyOrder>('/api/reach/any-order', query)
  if (!report || !rig || report.sections.length === 0) {
    return (
      <Stack>
        <Title>Step</Title>
        <Muted>
          Step shows the whole set as the rig plays it: what is on in each section and what the foot does at
          each change. It needs a rig, and a set list with songs in it.
        </Muted>
      </Stack>
    )
  }
  return (
    <Stack $gap={14}>
      <Row $gap={16}>
        <Title>Step</Title>
        <Muted>
          A bar is a pedal that is on; a dot under a column is a press of the foot.
          {any && any.total > 0 && ` Songs in any order: ${any.reached} of ${any.total} changes possible.`}
        </Muted>
      </Row>
      <Roll report={report} />
      <Columns>
        <Stack $gap={8}>
          <Heading>The floor</Heading>
          <FloorMap
            rig={rig}
            label="The floor"
            shown={{
              floor: report.floor,
              walk: change?.presses.map((p) => p.switch),
              tape: sound?.tape,
            }}
          />
        </Stack>
        <Stack $gap={14}>
          <ChangeCard />
          <Beside rig={rig} report={report} />
        </Stack>
      </Columns>
      <Below rig={rig} other={other} />
      {!report.exact && (
        <Muted>This rig has more possibilities than were searched: a better plan of presses may exist.</Muted>
      )}
    </Stack>
  )
}

const Columns = styled.div`
  display: grid; grid-template-columns: minmax(0, 1.35fr) minmax(240px, 1fr); gap: 18px; align-items: start;
  @media (max-width: 1100px) { grid-template-columns: minmax(0, 1fr); }
`

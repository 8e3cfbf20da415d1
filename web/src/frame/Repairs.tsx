import styled from 'styled-components'
import { useEdit } from '../api/plan'
import type { Repair, RepairReport } from '../api/types'
import { useWork } from '../api/work'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { Fold } from '../ui/Fold'
import { Figure, Muted } from '../ui/layout'
import { Progress } from '../ui/Progress'

/** What would mend the change under the cursor, each with the reach it would give. */
export function Repairs({ position }: { position: number }) {
  const { rig, setList, destination } = usePlace()
  const work = useWork<RepairReport>(
    '/api/repairs',
    rig && setList
      ? { rig: rig.id, set_list: setList.id, destination: destination?.id, position }
      : undefined,
  )
  const failure = work.result?.failures[0]
  if (work.busy && !failure)
    return <Progress label="Looking for repairs" share={work.progress} cancel={work.cancel} />
  if (work.cancelled) return <Button onPress={work.again}>Look for repairs</Button>
  if (work.refused) return <Muted role="alert">{work.refused}</Muted>
  if (!failure) return null
  const [first, ...others] = failure.repairs
  return (
    <>
      {failure.slow_hand && <Muted>It truly needs a hand: no footwork mends it.</Muted>}
      {first ? (
        <RepairButton repair={first} strong />
      ) : (
        <Muted>No repair of two edits was found. {failure.takes}</Muted>
      )}
      {others.length > 0 && (
        <Fold title={`Other repairs (${others.length})`}>
          <List>
            {others.map((r) => (
              <RepairButton key={r.words} repair={r} />
            ))}
          </List>
        </Fold>
      )}
    </>
  )
}

function RepairButton({ repair, strong }: { repair: Repair; strong?: boolean }) {
  const { rig, destination, report } = usePlace()
  const edit = useEdit()
  if (!rig) return null
  return (
    <div>
      <Button
        $strong={strong}
        onPress={() =>
          void edit.carryOut({
            rig: rig.id,
            destination: destination?.id,
            label: repair.words,
            edits: repair.edits,
          })
        }
      >
        {repair.words}
      </Button>
      <Note>
        Then reach{' '}
        <Figure>
          {repair.reach.reached}/{repair.reach.total}
        </Figure>
        {report && <>, now {report.reach.reached}</>}.{repair.boxes > 0 && ' Takes a box more.'}
        {repair.breaks.length > 0 && ` Breaks ${repair.breaks.length}: ${repair.breaks[0]}`}{' '}
        {repair.minds?.join(' ')}
      </Note>
    </div>
  )
}

const List = styled.div`display: grid; gap: 8px;`
const Note = styled.p`font-size: 12px; color: var(--muted); margin-top: 2px;`

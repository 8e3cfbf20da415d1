import styled from 'styled-components'
import type { Repair, RepairReport } from '../api/types'
import { useWork } from '../api/work'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { Button } from '../ui/controls'
import { Fold } from '../ui/Fold'
import { Figure, Muted } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { TakeButton } from '../ui/TakeButton'
import { repairsAt } from './repairsAt'

/** What would mend the change under the cursor, each with the reach it would give. */
export function Repairs({ position }: { position: number }) {
  const { rig, setList, destination } = useChosen()
  const work = useWork<RepairReport>(
    '/api/repairs',
    rig && setList ? repairsAt(rig.id, setList.id, destination?.id, position) : undefined,
  )
  const failure = work.result?.failures[0]
  if (work.busy && !failure)
    return <Progress label="Looking for repairs" share={work.progress} cancel={work.cancel} />
  if (work.cancelled) return <Button onPress={work.again}>Look for repairs</Button>
  if (work.refused) return <Muted role="alert">{work.refused}</Muted>
  if (!failure) return null
  const right = failure.repairs.filter((r) => !r.heading)
  const wrong = failure.repairs.filter((r) => r.heading)
  const [first, ...others] = right
  return (
    <>
      {failure.slow_hand && <Muted>Needs a hand: no switch can do this.</Muted>}
      {first ? (
        <RepairButton repair={first} strong fresh={work.fresh} from={work.from} />
      ) : (
        <Muted>
          No repair of one or two edits {wrong.length > 0 && 'keeps every sound right'}
          {wrong.length === 0 && 'was found'}. {failure.takes}
        </Muted>
      )}
      {others.length > 0 && (
        <Fold title={`Other repairs (${others.length})`}>
          <List>
            {others.map((r) => (
              <RepairButton key={r.words} repair={r} fresh={work.fresh} from={work.from} />
            ))}
          </List>
        </Fold>
      )}
      {wrong[0] && (
        <Fold title={`${wrong[0].heading} (${wrong.length})`}>
          <List>
            {wrong.map((r) => (
              <RepairButton key={r.words} repair={r} fresh={work.fresh} from={work.from} />
            ))}
          </List>
        </Fold>
      )}
    </>
  )
}

function RepairButton({
  repair,
  strong,
  fresh,
  from,
}: {
  repair: Repair
  strong?: boolean
  fresh: boolean
  from: string | undefined
}) {
  const { rig, destination, report } = useChosen()
  const edit = useEdit()
  if (!rig) return null
  return (
    <div>
      <TakeButton
        $strong={strong}
        fresh={fresh}
        onPress={() =>
          edit.carryOut(
            { rig: rig.id, destination: destination?.id, label: repair.words, edits: repair.edits },
            from,
          )
        }
      >
        {repair.words}
      </TakeButton>
      <Note>
        Then reach{' '}
        <Figure>
          {repair.reach.reached}/{repair.reach.total}
        </Figure>
        {report && <>, now {report.reach.reached}</>}.{repair.boxes > 0 && ' Needs one more pedal.'}
        {repair.breaks.length > 0 && ` Breaks ${repair.breaks.length}: ${repair.breaks[0]}`}{' '}
        {repair.minds?.join(' ')}
      </Note>
    </div>
  )
}

const List = styled.div`display: grid; gap: 8px;`
const Note = styled.p`font-size: 12px; color: var(--muted); margin-top: 2px;`

import { useBoard, useLookup } from '../api/plan'
import type { Rig } from '../api/types'
import { useFloor } from '../floor/useFloor'
import { useChosen } from '../state/place'
import { Muted, Row } from '../ui/layout'
import { TakeButton } from '../ui/TakeButton'
import { Card } from './Card'
import { Several } from './Several'

/** What does not fit on the board, each with the move that mends it. */
export function BoardFindings() {
  const { rig } = useChosen()
  return rig ? <OnBoard rig={rig} /> : null
}

function OnBoard({ rig }: { rig: Rig }) {
  const { plan, setList, destination } = useChosen()
  const { data, fresh, from } = useBoard(rig.id, setList?.id, destination?.id)
  const { putAll } = useFloor(rig)
  const find = useLookup(plan)
  if (!data?.board) return null
  const missing = data.left_out.map((id) => find('gear', id)?.name ?? id)
  return (
    <>
      {data.fits && data.findings.length === 0 && <Muted>Everything is in place on {data.name}.</Muted>}
      {missing.length > 0 && (
        <Card
          id="no-place"
          title={`${missing.length === 1 ? `${missing[0]} has` : `${missing.length} boxes have`} no place on ${data.name}`}
        >
          {missing.length > 1 && <Several of={missing} />}
          <p>{missing.length === 1 ? 'Press Fit to place it.' : 'Press Fit to place them.'}</p>
        </Card>
      )}
      {data.findings.map((f) => (
        <Card
          key={`${f.rule} ${f.gear.join(' ')} ${f.words}`}
          id={`${f.rule} ${f.gear.join(' ')}`}
          title={f.words}
        >
          {f.edit && f.moves && (
            <Row>
              <TakeButton
                $strong
                fresh={fresh}
                onPress={() => void putAll(f.edit ?? '', f.moves ?? {}, from)}
              >
                {f.edit}
              </TakeButton>
            </Row>
          )}
        </Card>
      ))}
    </>
  )
}

import { useTempo } from '../api/plan'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { Row } from '../ui/layout'
import { Card } from './Card'
import { useKeep } from './useKeep'

/** What is to be said of the times of the set's delays. */
export function TempoFindings() {
  const { rig, destination, setList } = usePlace()
  const { data } = useTempo(setList?.id, rig?.id, destination?.id)
  const { keep, reopen, dialog } = useKeep(rig)
  if (!rig || !data) return null
  const kept = new Map((rig.settled ?? []).map((s) => [s.finding, s.reason]))
  return (
    <>
      {data.findings
        .filter((f) => !kept.has(f.id))
        .map((f) => (
          <Card key={f.id}>
            <h3>{f.title}</h3>
            <p>{f.words}</p>
            <Row>
              <Button onPress={() => keep(f.title, [f.id])}>Keep</Button>
            </Row>
          </Card>
        ))}
      {data.findings
        .filter((f) => kept.has(f.id))
        .map((f) => (
          <Card key={f.id} $settled>
            <h3>{f.title}</h3>
            <p>Kept: {kept.get(f.id)}</p>
            <Row>
              <Button onPress={() => reopen(f.title, [f.id])}>Reopen</Button>
            </Row>
          </Card>
        ))}
      {dialog}
    </>
  )
}

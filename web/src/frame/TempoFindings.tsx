import { answer, client, Problem } from '../api/client'
import { useEdit, useTempo } from '../api/plan'
import { useNotices } from '../state/notices'
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
  const edit = useEdit()
  const { say, tell } = useNotices()
  if (!rig || !data) return null
  const kept = new Map((rig.settled ?? []).map((s) => [s.finding, s.reason]))
  const times = data.presets.reduce((n, p) => n + p.times.length, 0)
  const store = async () => {
    try {
      const done = await answer(
        client.POST('/api/tempo/store', { body: { rig: rig.id, set_list: setList?.id ?? '' } }),
      )
      say(done.words.join(' '))
    } catch (e) {
      tell(e instanceof Problem ? e : new Problem(0, undefined))
    }
    await edit.settle()
  }
  return (
    <>
      {data.findings.length > 0 && times > 0 && (
        <Card>
          <h3>Stored times</h3>
          <p>
            {times} {times === 1 ? 'preset serves' : 'presets serve'} every song; each song then chooses its
            own.
          </p>
          <Row>
            <Button $strong onPress={() => void store()}>
              Store the times
            </Button>
          </Row>
        </Card>
      )}
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

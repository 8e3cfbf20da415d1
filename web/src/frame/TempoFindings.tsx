import { answer, client, Problem } from '../api/client'
import { useEdit, useTempo } from '../api/plan'
import { useNotices } from '../state/notices'
import { usePlace } from '../state/place'
import { Button } from '../ui/controls'
import { Row } from '../ui/layout'
import { Card } from './Card'
import { PlainCards } from './PlainCards'

/** What is to be said of the times of the set's delays. */
export function TempoFindings() {
  const { rig, destination, setList } = usePlace()
  const { data } = useTempo(setList?.id, rig?.id, destination?.id)
  const edit = useEdit()
  const { say, tell } = useNotices()
  if (!rig || !data) return null
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
      <PlainCards rig={rig} findings={data.findings} />
    </>
  )
}

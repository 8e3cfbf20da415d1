import { Problem } from '../api/client'
import { useStoring, useTempo } from '../api/plan'
import { useEdit } from '../edits/useEdit'
import { useNotices } from '../state/notices'
import { useChosen } from '../state/place'
import { Figure, Muted, Row } from '../ui/layout'
import { Grid } from '../ui/Table'
import { TakeButton } from '../ui/TakeButton'
import { Card } from './Card'
import { PlainCards } from './PlainCards'

/** What is to be said of the times of the set's delays. */
export function TempoFindings() {
  const { rig, destination, setList } = useChosen()
  const { data, fresh, from } = useTempo(setList?.id, rig?.id, destination?.id)
  if (!rig || !setList || !data) return null
  const times = data.presets.reduce((n, p) => n + p.times.length, 0)
  const stored = new Set(data.presets.flatMap((p) => p.times.flatMap((t) => t.for.map((f) => f.sound))))
  return (
    <>
      {data.findings.length > 0 && times > 0 && (
        <Card id="stored-times" title="Stored times">
          <p>
            {times} {times === 1 ? 'preset serves' : 'presets serve'} every song, and no fewer would; each
            song then chooses its own.
          </p>
          <Store rig={rig.id} setList={setList.id} fresh={fresh} from={from}>
            Store the times
          </Store>
        </Card>
      )}
      <PlainCards
        rig={rig}
        findings={data.findings}
        more={(f) => (
          <>
            {f.songs && f.songs.length > 0 && <Songs of={f.songs} />}
            {stored.has(f.sound) && /^tempo:(loose|off):/.test(f.id) && (
              <Store rig={rig.id} setList={setList.id} fresh={fresh} from={from} sound={f.sound}>
                Store only its times
              </Store>
            )}
          </>
        )}
      />
    </>
  )
}

/** By how much a time is off in each song. */
function Songs({ of }: { of: { title: string; set_ms: number; wanted_ms: number }[] }) {
  return (
    <Grid>
      <thead>
        <tr>
          <th scope="col">Song</th>
          <th scope="col">Set, ms</th>
          <th scope="col">Asked, ms</th>
        </tr>
      </thead>
      <tbody>
        {of.map((s) => (
          <tr key={`${s.title} ${s.wanted_ms}`}>
            <td>{s.title}</td>
            <td>
              <Figure>{s.set_ms.toFixed(0)}</Figure>
            </td>
            <td>
              <Figure>{s.wanted_ms.toFixed(0)}</Figure>
            </td>
          </tr>
        ))}
      </tbody>
    </Grid>
  )
}

/** Stores times, of one sound or of all, and says before what that overwrites, or why it cannot be. */
function Store(p: {
  rig: string
  setList: string
  sound?: string
  fresh: boolean
  from: string | undefined
  children: string
}) {
  const { data, error } = useStoring(p.setList, p.rig, p.sound)
  const edit = useEdit()
  const { say } = useNotices()
  const store = async () => {
    const { answer } = await edit.storeTimes(p.rig, p.setList, p.from, p.sound)
    if (answer?.words) say(answer.words.join(' '))
  }
  if (error)
    return (
      <Muted>{error instanceof Problem ? error.message : 'The effect of this could not be computed.'}</Muted>
    )
  return (
    <>
      {data && data.overwrites.length > 0 && (
        <ul aria-label="What storing overwrites">
          {data.overwrites.map((o) => (
            <li key={`${o.gear} ${o.preset}`}>{o.words}</li>
          ))}
        </ul>
      )}
      <Row>
        <TakeButton $strong={!p.sound} fresh={p.fresh && data !== undefined} onPress={() => void store()}>
          {p.children}
        </TakeButton>
      </Row>
    </>
  )
}

import type { Balance, BoostMove, Tuning } from '../api/types'
import { useWork } from '../api/work'
import { useEdit } from '../edits/useEdit'
import { useChosen } from '../state/place'
import { ListenButton } from '../ui/ListenButton'
import { Muted, Row } from '../ui/layout'
import { Progress } from '../ui/Progress'
import { TakeButton } from '../ui/TakeButton'
import { idOf } from '../views/order/chain'
import { PlainCards } from './PlainCards'

/** What is to be said of levels and dirt, with the least that mends it. */
export function BalanceFindings() {
  const { rig, destination, setList } = useChosen()
  const said = useWork<Balance>(
    '/api/balance',
    rig && { rig: rig.id, destination: destination?.id, set_list: setList?.id, dry: undefined },
  )
  if (!rig) return null
  return (
    <>
      {said.busy && <Muted style={{ minHeight: 330 }}>Metering…</Muted>}
      {said.result?.words && <Muted>{said.result.words}</Muted>}
      <PlainCards
        rig={rig}
        findings={said.latest?.findings ?? []}
        more={(f) => f.tunes && f.sound && <SoundRepairs sound={f.sound} />}
      />
    </>
  )
}

/** A move of the boost, or of a knob or two, that brings a sound into its targets. */
function SoundRepairs({ sound }: { sound: string }) {
  const { rig, destination } = useChosen()
  const edit = useEdit()
  const query = rig && { rig: rig.id, destination: destination?.id, dry: undefined, sound }
  const place = useWork<BoostMove>('/api/boost/move', query)
  const tune = useWork<Tuning>('/api/tune', query)
  if (!rig) return null
  const boost = place.result
  const knobs = tune.result?.repairs[tune.result.best]
  return (
    <>
      {tune.busy && <Progress label="Turning knobs" share={tune.progress} cancel={tune.cancel} />}
      {boost?.rig && (
        <Row>
          <TakeButton
            $strong
            fresh={place.fresh}
            onPress={() =>
              edit.change('rigs', rig.id, `Move ${boost.words}`, (now) => boost.rig ?? now, place.from)
            }
          >
            Try {boost.words}
          </TakeButton>
          <ListenButton
            title={boost.words ?? ''}
            query={{ sound, order: JSON.stringify((boost.path ?? []).map(idOf)) }}
          />
        </Row>
      )}
      {knobs && (
        <div>
          <TakeButton
            fresh={tune.fresh}
            onPress={() => edit.change('rigs', rig.id, knobs.words, () => knobs.rig, tune.from)}
          >
            Turn {knobs.words}
          </TakeButton>
          {knobs.breaks.length > 0 && <Muted>Takes {knobs.breaks.join(', ')} out of theirs.</Muted>}
        </div>
      )}
      {tune.result?.words && <Muted>{tune.result.words}</Muted>}
    </>
  )
}

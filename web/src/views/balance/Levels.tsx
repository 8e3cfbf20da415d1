import { useMemo, useState } from 'react'
import { usePlayedOtherwise } from '../../api/plan'
import type { GainMap as Mapped, SignalReport } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'
import { Muted, Stack } from '../../ui/layout'
import { Progress, Waiting } from '../../ui/Progress'
import { Boost } from './Boost'
import { GainMap } from './GainMap'
import { LevelLadder } from './LevelLadder'
import { LostTreble } from './LostTreble'
import { Measured } from './Measured'
import { OwnRecording } from './OwnRecording'
import { PlayedIn } from './PlayedIn'
import { SoundTable } from './SoundTable'

/** How loud and how dirty everything is: the gain map, the levels of the set, where a boost stands. */
export function Levels() {
  const { rig, destination, setList } = useChosen()
  const [dry, setDry] = useState<string | undefined>()
  const otherwise = usePlayedOtherwise(rig?.id, setList?.id, destination?.id)
  const [song, playedIn] = useState<string | undefined>()
  const heard = useMemo(() => ({ dry, song }), [dry, song])
  const stops = song ? otherwise.data?.ways.find((w) => w.songs.includes(song))?.stops : undefined
  const query = rig && { rig: rig.id, destination: destination?.id, ...heard }
  const map = useWork<Mapped>('/api/gainmap', query)
  const sounds = useWork<SignalReport>('/api/signal', query)
  if (!rig || (rig.recipes ?? []).length === 0) {
    return (
      <Stack>
        <Muted>
          Balance meters every combination of the gain stages against the sounds you need. It needs a rig with
          a chain and a recipe for a sound or two: make them in Order.
        </Muted>
      </Stack>
    )
  }
  // What they can be of is known in a moment, and nothing is to move when it is.
  if (setList && !otherwise.data && !otherwise.error) return null
  return (
    <Stack $gap={16}>
      <Muted>
        Every way the gain boxes can be combined, metered on the same playing. Modelled on kinds of circuit
        {rig.levels?.length ? `; ${rig.levels.length} measured by you` : ', until you measure'}.
      </Muted>
      <PlayedIn ways={otherwise.data?.ways ?? []} use={playedIn} />
      {map.refused && <Muted role="alert">{map.refused}</Muted>}
      {map.cancelled && <Muted>Cancelled. Metering starts again when the rig changes.</Muted>}
      {map.busy && (
        <Waiting style={map.latest ? undefined : { minHeight: 456 }}>
          <Progress label="Metering every combination" share={map.progress} cancel={map.cancel} />
        </Waiting>
      )}
      {map.latest && <GainMap map={map.latest} from={map.from} stale={map.busy} rig={rig} heard={heard} />}
      <LevelLadder dry={dry} />
      <LostTreble rig={rig} />
      <Boost rig={rig} heard={heard} stops={stops} />
      {sounds.busy && (
        <Waiting style={sounds.latest ? undefined : { minHeight: 90 + 34 * (rig.recipes ?? []).length }}>
          <Progress label="Metering each sound" share={sounds.progress} cancel={sounds.cancel} />
        </Waiting>
      )}
      {sounds.refused && <Muted role="alert">{sounds.refused}</Muted>}
      {sounds.latest && <SoundTable report={sounds.latest} heard={heard} />}
      <OwnRecording dry={dry} use={setDry} />
      <Measured rig={rig} />
    </Stack>
  )
}

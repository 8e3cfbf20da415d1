import type { RoomReport } from '../../api/types'
import { useWork } from '../../api/work'
import { useKept } from '../../state/kept'
import { useChosen } from '../../state/place'

/** The hall that the room is heard in: how long it rings, in s; the open air until one is chosen. */
export function useHall(): [number, (reverbS: number) => void] {
  const [kept, keep] = useKept('hall', '0')
  return [Number(kept) || 0, (s) => keep(String(s))]
}

/** What is heard of the rig in the set among the band that plays it. Which one that is, and why there is none, is the
 * server's to say. */
export function useRoom() {
  const { plan, rig, destination, setList } = useChosen()
  const [hall] = useHall()
  const query =
    rig && setList && plan.bands.length > 0
      ? { rig: rig.id, destination: destination?.id, set_list: setList.id, hall_s: hall || undefined }
      : undefined
  return { query, work: useWork<RoomReport>('/api/room', query) }
}

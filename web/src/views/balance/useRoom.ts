import type { RoomReport } from '../../api/types'
import { useWork } from '../../api/work'
import { useChosen } from '../../state/place'

/** What is heard of the rig in the set among the band that plays it. Which one that is, and why there is none, is the
 * server's to say. */
export function useRoom() {
  const { plan, rig, destination, setList } = useChosen()
  const query =
    rig && setList && plan.bands.length > 0
      ? { rig: rig.id, destination: destination?.id, set_list: setList.id }
      : undefined
  return { query, work: useWork<RoomReport>('/api/room', query) }
}

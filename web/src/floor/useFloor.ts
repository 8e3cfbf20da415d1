import type { FloorBox, Rig } from '../api/types'
import { useEdit } from '../edits/useEdit'
import { type Placement, placed } from './standing'

/** What moves boxes of a rig. What is not placed yet is placed where the answer stands it; what is, moves
 * from where it is now. */
export function useFloor(rig: Rig) {
  const edit = useEdit()
  return {
    place: (b: FloorBox, what: string, update: (now: Placement) => Partial<Placement>) =>
      edit.change('rigs', rig.id, what, (r) => {
        const now = r.floor.places?.[b.gear] ?? placed(b)
        const next = { ...now, ...update(now) }
        return { ...r, floor: { ...r.floor, places: { ...r.floor.places, [b.gear]: next } } }
      }),
    lift: (b: FloorBox) =>
      edit.change('rigs', rig.id, `Take ${b.name} off its place`, (r) => {
        const { [b.gear]: _gone, ...places } = r.floor.places ?? {}
        return { ...r, floor: { ...r.floor, places } }
      }),
    putAll: (what: string, moves: Record<string, Placement>, from?: string) =>
      edit.change(
        'rigs',
        rig.id,
        what,
        (r) => ({ ...r, floor: { ...r.floor, places: { ...r.floor.places, ...moves } } }),
        from,
      ),
  }
}

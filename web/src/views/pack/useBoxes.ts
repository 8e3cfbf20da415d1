import { values } from '../../api/plan'
import type { Gear, Rig, Show } from '../../api/types'
import { useChosen } from '../../state/place'

/** What a rig holds, by its file: everything a key or a list of it names. */
export function idsIn(rig: Rig): Set<string> {
  const ids = new Set<string>(rig.guitars ?? [])
  const visit = (nodes: Rig['path']) => {
    for (const n of nodes ?? []) {
      if (n.stop) ids.add(n.stop.split('/')[0] ?? '')
      if (n.switcher) ids.add(n.switcher)
      if (n.split) {
        for (const key of [n.split.from, n.split.to]) if (key) ids.add(key.split('/')[0] ?? '')
        for (const lane of n.split.lanes) visit(lane.nodes)
      }
    }
  }
  visit(rig.path)
  for (const d of rig.destinations ?? []) {
    visit(d.path)
    if (d.amp) ids.add(d.amp)
  }
  for (const f of rig.power ?? []) ids.add(f.supply)
  for (const id of Object.keys(rig.programs ?? {})) ids.add(id)
  return ids
}

/** The boxes of a show's rig. */
export function useGearOf(show: Show): Gear[] {
  const { plan } = useChosen()
  const rig = values(plan, 'rigs').find((r) => r.id === show.rig)
  const ids = rig ? idsIn(rig) : new Set<string>()
  return values(plan, 'gear').filter((g) => ids.has(g.id))
}

/** The boxes of a show's rig, to choose from. */
export function useBoxes(show: Show): { id: string; name: string }[] {
  return useGearOf(show).map((g) => ({ id: g.id, name: g.name }))
}

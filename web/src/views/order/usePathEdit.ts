import { useMemo } from 'react'
import { useOrder } from '../../api/plan'
import type { PathNode, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { withPath } from '../../state/there'
import { find, laneName, lanesOf, stopsOf } from './chain'
import { withoutEmptySlots } from './useSlots'

/** The chain where it is looked at, and how it, and its rig, are changed. */
export function usePathEdit() {
  const { plan, rig, destination, here } = useChosen()
  const edit = useEdit()
  const stops = useMemo(() => stopsOf(plan), [plan])
  const path = here?.path ?? []
  const { from, data } = useOrder(rig?.id, destination?.id)
  const change = (what: string, update: (r: Rig) => Rig, computed?: string) =>
    rig && edit.change('rigs', rig.id, what, update, computed)
  // At a destination that follows the rig's chain it is the derived one that is edited, and becomes its own.
  const derived = destination && !destination.path?.length ? from : undefined
  const changePath = (what: string, update: (p: PathNode[]) => PathNode[]) =>
    change(what, (r) => withoutEmptySlots(withPath(r, destination?.id, path, update)), derived)
  const nameIn = (shown: PathNode[], id: string) =>
    stops.get(id)?.name ??
    data?.splits.find((s) => s.split === id)?.name ??
    splitName(shown, id, (k) => stops.get(k)?.name ?? k)
  return { path, stops, change, changePath, nameIn }
}

/** What a split is called: by what stands in its lanes. */
function splitName(path: PathNode[], id: string, stop: (key: string) => string): string {
  const s = find(path, id)?.split
  if (!s) return id
  const inside = lanesOf(s).map((l, i) => {
    const first = (l.nodes ?? [])[0]
    return l.name ?? (first?.stop ? stop(first.stop) : laneName(s, i))
  })
  return `the ${s.kind === 'tap' ? 'tap' : 'split'} ${s.kind === 'tap' ? 'to' : 'into'} ${inside.join(' and ')}`
}

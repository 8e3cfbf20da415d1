import { answer, client, computedFrom, Problem } from '../../api/client'
import { useLookup } from '../../api/plan'
import type { Rig, Swap } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useNotices } from '../../state/notices'
import { useChosen } from '../../state/place'
import { flat } from './chain'

/** Swap slots of a rig: which box stands in each, and another put there. */
export function useSlots(rig: Rig | undefined) {
  const { plan } = useChosen()
  const find = useLookup(plan)
  const edit = useEdit()
  const { tell } = useNotices()
  const name = (gear: string) => find('gear', gear)?.name ?? gear
  return {
    name,
    of: (gear: string): Swap | undefined => rig && slotOf(rig, gear),
    /** Puts another box of a slot into the chain, and gives its stop there. What the rig says of each is the server's to
     * sort. */
    put: async (swap: Swap, gear: string) => {
      if (!rig) return undefined
      try {
        const next = await answer(
          client.GET('/api/slots/picked', { params: { query: { rig: rig.id, swap: swap.id, gear } } }),
        )
        const what = `${name(gear)} in ${swap.name}`
        const done = await edit.change('rigs', rig.id, what, () => next, computedFrom(next))
        return done.problem ? undefined : stopOf(next, gear)
      } catch (e) {
        tell(e instanceof Problem ? e : new Problem(0, undefined))
        return undefined
      }
    },
  }
}

/** The slot that a box of a rig can stand in. */
export const slotOf = (rig: Rig, gear: string): Swap | undefined =>
  rig.swaps?.find((s) => s.boxes?.some((b) => b.gear === gear))

/** The first stop of a box in the chain of a rig. */
const stopOf = (rig: Rig, gear: string): string | undefined =>
  flat(rig.path ?? []).find((n) => n.stop?.startsWith(`${gear}/`))?.stop

const stopsIn = (tree: unknown): string => JSON.stringify(tree ?? [])

/** A rig without the slots of which no box is in the chain any more. */
export function withoutEmptySlots(rig: Rig): Rig {
  if (!rig.swaps?.length) return rig
  const all = [rig.path, ...(rig.destinations ?? []).map((d) => d.path)].map(stopsIn).join(' ')
  const left = rig.swaps.filter((s) => s.boxes?.some((b) => all.includes(`"stop":"${b.gear}/`)))
  return left.length === rig.swaps.length ? rig : { ...rig, swaps: left }
}

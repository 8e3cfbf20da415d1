import { freshId } from '../../api/client'
import { useKinds, values } from '../../api/plan'
import type { BufferPlace, Rig } from '../../api/types'
import { useEdit } from '../../edits/useEdit'
import { useChosen } from '../../state/place'
import { withPath } from '../../state/there'
import { idOf, keysOf } from '../order/chain'

/** Puts a buffer into the chain: one that is owned and stands in no place yet, else one of the kind. */
export function usePutBuffer(): (place: BufferPlace, from: string | undefined) => void {
  const { plan, rig, here, destination } = useChosen()
  const { data } = useKinds()
  const edit = useEdit()
  return (place, from) => {
    if (!rig) return
    const inChain = keysOf(here?.path ?? [])
    const isBuffer = (b: { effect: string; bypass: string; passive?: boolean }) =>
      b.effect === 'buffer' && b.bypass === 'always' && !b.passive
    const owned = values(plan, 'gear')
      .flatMap((g) => (g.blocks ?? []).filter(isBuffer).map((b) => `${g.id}/${b.id}`))
      .find((k) => !inChain.includes(k))
    const kindOf = (at: string) => plan.gear.find((g) => g.value.id === at.split('/')[0])?.value.kind
    const into = (stop: string) => (r: Rig) => {
      const next = withPath(r, destination?.id, here?.path ?? [], (path) => {
        const at = path.findIndex((n) => idOf(n) === place.before)
        return at < 0 ? path : [...path.slice(0, at), { stop }, ...path.slice(at)]
      })
      // The lead that came there goes into the buffer now; the one from the board to an amp comes out of it.
      const toAmp = kindOf(place.before) === 'amp'
      return {
        ...next,
        leads: next.leads?.map((l) =>
          l.to !== place.before
            ? l
            : toAmp && kindOf(l.from) !== 'guitar'
              ? { ...l, from: stop }
              : { ...l, to: stop },
        ),
      }
    }
    if (owned) {
      void edit.change('rigs', rig.id, place.words, into(owned), from)
      return
    }
    const kind = data?.kinds.find((k) => k.id === 'buffer')
    if (!kind) return
    const taken = values(plan, 'gear').map((g) => g.name)
    let name = kind.name
    for (let n = 2; taken.includes(name); n += 1) name = `${kind.name} ${n}`
    const id = freshId()
    const stop = `${id}/${kind.gear.blocks?.[0]?.id ?? 'fx'}`
    void edit.addAnd(
      place.words,
      { kind: 'gear', value: { ...kind.gear, id, name, circuit: kind.name } },
      { kind: 'rigs', id: rig.id, update: into(stop) },
      from,
    )
  }
}

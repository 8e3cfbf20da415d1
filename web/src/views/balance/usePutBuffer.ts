import { freshId } from '../../api/client'
import { useEdit, useKinds, values } from '../../api/plan'
import type { BufferPlace } from '../../api/types'
import { usePlace } from '../../state/place'
import { withPath } from '../../state/there'
import { idOf, keysOf } from '../order/chain'

/** Puts a buffer into the chain: one that is owned and stands in no place yet, else one of the kind. */
export function usePutBuffer(): (place: BufferPlace) => Promise<void> {
  const { plan, rig, here, destination } = usePlace()
  const { data } = useKinds()
  const edit = useEdit()
  return async (place) => {
    if (!rig) return
    const inChain = keysOf(here?.path ?? [])
    const isBuffer = (b: { effect: string; bypass: string; passive?: boolean }) =>
      b.effect === 'buffer' && b.bypass === 'always' && !b.passive
    let key = values(plan, 'gear')
      .flatMap((g) => (g.blocks ?? []).filter(isBuffer).map((b) => `${g.id}/${b.id}`))
      .find((k) => !inChain.includes(k))
    if (!key) {
      const kind = data?.kinds.find((k) => k.id === 'buffer')
      if (!kind) return
      const taken = values(plan, 'gear').map((g) => g.name)
      let name = kind.name
      for (let n = 2; taken.includes(name); n += 1) name = `${kind.name} ${n}`
      const id = freshId()
      if (!(await edit.add('gear', `Add ${name}`, { ...kind.gear, id, name, circuit: kind.name }))) return
      key = `${id}/${kind.gear.blocks?.[0]?.id ?? 'fx'}`
    }
    const stop = key
    await edit.change('rigs', rig.id, place.words, (r) => {
      const next = withPath(r, destination?.id, here?.path ?? [], (path) => {
        const at = path.findIndex((n) => idOf(n) === place.before)
        return at < 0 ? path : [...path.slice(0, at), { stop }, ...path.slice(at)]
      })
      // The lead that came there goes into the buffer now; the one from the board to an amp comes out of it.
      const kindOf = (place: string) => plan.gear.find((g) => g.value.id === place.split('/')[0])?.value.kind
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
    })
  }
}

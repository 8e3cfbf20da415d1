import styled from 'styled-components'
import { useChosen } from '../state/place'
import { useIsStand } from '../state/role'
import { Button } from '../ui/controls'
import { useSlots } from '../views/order/useSlots'
import { useShowAbove } from '../views/pack/useShow'

/** Where the show at the top picks another box for a swap slot than the one in the chain: its sheets are made with that
 * one, and every screen with the chain's. It is said, and one press makes them agree. */
export function PickedOtherwise() {
  const { rig } = useChosen()
  const show = useShowAbove()
  const stand = useIsStand()
  const slots = useSlots(rig)
  const chain = JSON.stringify([rig?.path, rig?.destinations?.map((d) => d.path)])
  const others = (show?.picks ?? []).filter((x) => !chain.includes(`"stop":"${x.gear}/`))
  return others.map((x) => {
    const slot = rig?.swaps?.find((s) => s.id === x.swap)
    const there = slot?.boxes?.find((b) => chain.includes(`"stop":"${b.gear}/`))
    if (!slot || !there) return null
    return (
      <Strip key={x.swap} role="region" aria-label={`${slot.name} at ${show?.name}`}>
        <span>
          {show?.name} has {slots.name(x.gear)} in {slot.name}; what is shown here is with{' '}
          {slots.name(there.gear)}.
        </span>
        {!stand && (
          <Button onPress={() => void slots.put(slot, x.gear)}>Put {slots.name(x.gear)} in the chain</Button>
        )}
      </Strip>
    )
  })
}

const Strip = styled.div`display: flex; flex-wrap: wrap; gap: 6px 14px; align-items: center; padding: 6px 16px; min-height: 45px; background: var(--raised); border-bottom: 1px solid var(--line); border-left: 4px solid var(--tape-yellow);`

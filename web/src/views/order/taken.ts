import type { OrderMove, PathNode, Rig } from '../../api/types'
import { withPath } from '../../state/there'
import { sameShape } from './chain'
import { withHeld } from './useChain'

/** The rig with a move taken, where the chain is still the one that the move was worked out
 * for; else the rig as it is. */
export function taken(rig: Rig, destination: string | undefined, from: PathNode[], m: OrderMove): Rig {
  let stale = false
  const next = withPath(rig, destination, from, (now) => {
    stale = !sameShape(now, from)
    return stale ? now : m.path
  })
  return stale ? rig : withHeld(next, m)
}

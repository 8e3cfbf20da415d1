import type { OrderMove, PathNode, Rig } from '../../api/types'
import { withPath } from '../../state/there'
import { withHeld } from './useChain'

/** The rig with a move taken. The chain it was worked out for is the one that is there: the server
 * refuses it otherwise. */
export function taken(rig: Rig, destination: string | undefined, from: PathNode[], m: OrderMove): Rig {
  return withHeld(
    withPath(rig, destination, from, () => m.path),
    m,
  )
}

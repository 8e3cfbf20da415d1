import { createContext, useContext } from 'react'
import type { OrderMove, PathNode, Rig, Traced } from '../../api/types'
import type { Spot, Stop } from './chain'

/** The chain on the screen and what can be done to it. */
export interface Chain {
  rig: Rig
  path: PathNode[]
  stops: Map<string, Stop>
  traced: Map<string, Traced>
  picked: string | undefined
  pick: (id: string | undefined) => void
  /** Said of a node in undo and history. */
  name: (id: string) => string
  /** Only looked at: a preview of another order. */
  preview: boolean
  /** What the preview moves. */
  marked: string | undefined
  change: (what: string, update: (path: PathNode[]) => PathNode[]) => void
  move: (id: string, spot: Spot) => void
}

const Context = createContext<Chain | undefined>(undefined)
export const ChainProvider = Context.Provider

export function useChain(): Chain {
  const chain = useContext(Context)
  if (!chain) throw new Error('useChain needs a ChainProvider around it')
  return chain
}

/** The rig with a move taken; held loops come with it. */
export const withHeld = (rig: Rig, m: OrderMove): Rig =>
  m.held?.length ? { ...rig, held: [...(rig.held ?? []), ...m.held] } : rig

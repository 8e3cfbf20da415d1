import { createContext, useContext } from 'react'
import type { OrderMove, PathNode, Rig, Split, Swap, Traced } from '../../api/types'
import { laneName, lanesOf, type Spot, type Stop } from './chain'

/** The chain on the screen and what can be done to it. */
export interface Chain {
  rig: Rig
  path: PathNode[]
  stops: Map<string, Stop>
  traced: Map<string, Traced>
  picked: string | undefined
  pick: (id: string | undefined) => void
  /** What lanes are called, by split, as the core names them; nothing where it has not said yet. */
  laneNames: Map<string, string[]>
  /** Said of a node in undo and history. */
  name: (id: string) => string
  gearName: (gear: string) => string
  /** Puts another box of a swap slot into the chain. */
  put: (slot: Swap, gear: string) => unknown
  /** Only looked at: a preview of another order. */
  preview: boolean
  /** What the preview moves. */
  marked: string | undefined
  change: (what: string, update: (path: PathNode[]) => PathNode[]) => unknown
  move: (id: string, spot: Spot) => unknown
}

const Context = createContext<Chain | undefined>(undefined)
export const ChainProvider = Context.Provider

export function useChain(): Chain {
  const chain = useContext(Context)
  if (!chain) throw new Error('useChain needs a ChainProvider around it')
  return chain
}

/** What a lane of a split is called: as the core says, or as it stands until it has. */
export function useLaneName() {
  const { laneNames } = useChain()
  return (s: Split, lane: number) => {
    const said = laneNames.get(s.id)
    return said && said.length === lanesOf(s).length && !lanesOf(s)[lane]?.name
      ? (said[lane] ?? laneName(s, lane))
      : laneName(s, lane)
  }
}

/** The rig with a move taken; held loops come with it. */
export const withHeld = (rig: Rig, m: OrderMove): Rig =>
  m.held?.length ? { ...rig, held: [...(rig.held ?? []), ...m.held] } : rig

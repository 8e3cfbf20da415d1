import { createContext, type ReactNode, useContext, useMemo } from 'react'
import { useKinds } from './plan'
import type { components } from './schema.gen'

export type EffectTraits = components['schemas']['Traits']
export type EffectId = EffectTraits['effect']

const none: EffectTraits[] = []
const Table = createContext<ReadonlyMap<string, EffectTraits>>(new Map())

/** Has the table of effects at hand for all that is drawn within it. */
export function EffectTable({ children }: { children: ReactNode }) {
  const list = useKinds().data?.effects ?? none
  const table = useMemo(() => new Map(list.map((t) => [t.effect as string, t])), [list])
  return <Table value={table}>{children}</Table>
}

/** What the rules go by in each effect, by its name; in the order in which effects are offered. */
export const useEffects = () => useContext(Table)

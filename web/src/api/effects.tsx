import { useQuery } from '@tanstack/react-query'
import { createContext, type ReactNode, useContext, useMemo } from 'react'
import { answer, client } from './client'
import type { components } from './schema.gen'

export type EffectTraits = components['schemas']['Traits']
export type EffectId = EffectTraits['effect']

const none: EffectTraits[] = []
const Table = createContext<ReadonlyMap<string, EffectTraits>>(new Map())

/** Has the table of effects at hand for all that is drawn within it. */
export function EffectTable({ children }: { children: ReactNode }) {
  const { data } = useQuery({
    queryKey: ['effects'],
    queryFn: () => answer(client.GET('/api/effects')),
    staleTime: Number.POSITIVE_INFINITY,
  })
  const list = data?.effects ?? none
  const table = useMemo(() => new Map(list.map((t) => [t.effect as string, t])), [list])
  return <Table value={table}>{children}</Table>
}

/** What the rules go by in each effect, by its name; in the order in which effects are offered. */
export const useEffects = () => useContext(Table)

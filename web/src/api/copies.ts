import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client, Problem, sendAsItIs } from './client'
import type { components } from './schema.gen'

export type Kept = components['schemas']['Kept']
export type Contents = components['schemas']['Contents']

const copiesKey = ['copies'] as const

/** The copies beside the database, the newest first. */
export function useCopies() {
  return useQuery({ queryKey: copiesKey, queryFn: () => answer(client.GET('/api/copies')) })
}

/** Making, bringing and removing copies. */
export function useCopyActs() {
  const queries = useQueryClient()
  const again = () => queries.invalidateQueries({ queryKey: copiesKey })
  return {
    make: useMutation({ mutationFn: () => answer(client.POST('/api/copies')), onSuccess: again }),
    take: useMutation({ mutationFn: taken, onSuccess: again }),
    remove: useMutation({
      mutationFn: async (name: string) => {
        const { error, response } = await client
          .DELETE('/api/copies/{name}', { params: { path: { name } } })
          .catch(() => {
            throw new Problem(0, undefined)
          })
        if (!response.ok) throw new Problem(response.status, error)
      },
      onSuccess: again,
    }),
  }
}

/** Sends a copy that is in a file, as it is. */
const taken = (file: File) => sendAsItIs<Kept>('/api/copies/file', 'application/octet-stream', file)

/** Whether the plan can be written to, and what is wrong with the database where it is damaged. */
export function useCondition(asked: boolean) {
  return useQuery({
    queryKey: ['condition'],
    queryFn: () => answer(client.GET('/api/condition')),
    staleTime: Infinity,
    enabled: asked,
  })
}

/** Writes what is sound of a damaged database into a new one. */
export function useRepair() {
  return useMutation({ mutationFn: () => answer(client.POST('/api/repair')) })
}

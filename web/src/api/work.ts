import { type QueryClient, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { idle } from '../state/idle'
import { answer, client, computedFrom, Problem } from './client'
import { useSettled } from './plan'

interface Work<T> {
  state: 'running' | 'done' | 'cancelled'
  progress: number
  result?: T
}

type Call<T> = (
  path: string,
  init: { params: { query: object }; signal?: AbortSignal },
) => Promise<{ data?: Work<T>; error?: never; response: Response }>

/** A computation that takes its time: how far it is, its result, and how to stop it. It goes on in
 * the server when the screen is left, and is there again on coming back. */
export interface Working<T> {
  busy: boolean
  progress: number
  result: T | undefined
  /** The result, or the one from before the plan changed while it is worked out anew. */
  latest: T | undefined
  /** Whether the result was computed from the plan that is on the screen. */
  fresh: boolean
  /** What it was computed from, for a write that takes it up. */
  from: string | undefined
  refused: string | undefined
  cancelled: boolean
  cancel: () => void
  again: () => void
}

/** A piece of work as it is asked for, with how long an answer may be waited for. */
const asking = <T>(path: string, query: object | undefined, waits: number) =>
  queryOptions({
    queryKey: ['work', path, query],
    queryFn: ({ signal }) =>
      answer(
        (client.GET as unknown as Call<T>)(path, { params: { query: { ...query, wait_ms: waits } }, signal }),
      ),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  })

/** Has a piece of work done that will be asked for next, once the page has nothing else to do. */
export function useAhead(path: string, query: object | undefined) {
  const cache = useQueryClient()
  const settled = useSettled()
  const asked = query && settled ? JSON.stringify(query) : undefined
  useEffect(() => {
    if (!asked) return
    const next = asking(path, JSON.parse(asked), 2000)
    const gone = new AbortController()
    void idle().then(() => (gone.signal.aborted ? undefined : cache.prefetchQuery(next)))
    return () => {
      gone.abort()
      // What is under way for nobody may be of a plan that is no more.
      const query = cache.getQueryCache().find({ queryKey: next.queryKey, exact: true })
      if (query && !query.isActive() && query.state.fetchStatus === 'fetching')
        void query.cancel({ revert: true, silent: true })
    }
  }, [cache, path, asked])
}

/** Asks for a piece of work, again and again until it is done. */
export function useWork<T>(path: string, query: object | undefined): Working<T> {
  const cache = useQueryClient()
  const key = ['work', path, query]
  const { data, error, isFetching, refetch } = useQuery({
    ...asking<T>(path, query, 400),
    enabled: Boolean(query),
    refetchOnWindowFocus: false,
    refetchInterval: (q) => (q.state.data?.state === 'running' ? 100 : false),
  })
  const settled = useSettled()
  const cancelled = data?.state === 'cancelled'
  const held = useRef<{ asked: string; result: T } | undefined>(undefined)
  const asked = JSON.stringify(key)
  if (data?.result) held.current = { asked, result: data.result }
  const before = held.current?.asked === asked && !error && !cancelled ? held.current.result : undefined
  return {
    busy: Boolean(query) && !error && (data?.state === 'running' || (isFetching && !data?.result)),
    progress: data?.progress ?? 0,
    result: data?.result,
    latest: data?.result ?? before,
    fresh: settled && data?.result !== undefined && !isFetching,
    from: computedFrom(data),
    refused: error instanceof Problem ? error.message : error ? 'It could not be computed.' : undefined,
    cancelled,
    cancel: () => void stop(cache, key, path, query ?? {}),
    again: () => void refetch(),
  }
}

async function stop(cache: QueryClient, key: unknown[], path: string, query: object) {
  await cache.cancelQueries({ queryKey: key })
  cache.setQueryData(key, { state: 'cancelled', progress: 0 })
  await (client.DELETE as unknown as Call<unknown>)(path, { params: { query } }).catch(() => undefined)
}

import { keepPreviousData, type QueryClient, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useMemo } from 'react'
import { useNotices } from '../state/notices'
import { answer, client, freshId, Problem } from './client'
import { type Aggregates, type Collection, listOf, type WholePlan } from './types'
import { carryOut } from './work'

const planKey = ['plan'] as const

// What the server last said, and the edits on their way to it. What is shown is the one
// with the others laid over it, so that an answer which was under way when the hand moved
// on never takes an edit off the screen or out of the next write.
let server: WholePlan | undefined
let pending: { apply: (plan: WholePlan) => WholePlan }[] = []

const shown = () => server && pending.reduce((plan, p) => p.apply(plan), server)

/** Everything there is. */
export function usePlan() {
  return useQuery({
    queryKey: planKey,
    queryFn: async ({ signal }) => {
      const plan = await answer(client.GET('/api/plan', { signal }))
      if (!signal.aborted) server = plan
      return shown() ?? plan
    },
    staleTime: 5_000,
  })
}

/** The reach of a rig over a set list; the last answer stays while the next is made. */
export function useReach(rig: string | undefined, setList: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['reach', rig, setList, destination],
    queryFn: () =>
      answer(
        client.GET('/api/reach', {
          params: { query: { rig: rig ?? '', set_list: setList ?? '', destination } },
        }),
      ),
    enabled: Boolean(rig && setList),
    placeholderData: keepPreviousData,
  })
}

/** What is wrong with a rig's order, and the best one. */
export function useOrder(rig: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['order', rig, destination],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/order', { signal, params: { query: { rig: rig ?? '', destination } } })),
    enabled: Boolean(rig),
    placeholderData: keepPreviousData,
  })
}

/** Every cable of a rig. */
export function useCables(rig: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['order', 'cables', rig, destination],
    queryFn: () => answer(client.GET('/api/cables', { params: { query: { rig: rig ?? '', destination } } })),
    enabled: Boolean(rig),
    placeholderData: keepPreviousData,
  })
}

/** The treble each sound of a rig loses, with what is tried; the last answer stays while the next is made. */
export function useElectric(
  rig: string | undefined,
  tried: { setList?: string; destination?: string; buffer?: string; volume?: number },
) {
  const { setList, destination, buffer, volume } = tried
  return useQuery({
    queryKey: ['order', 'electric', rig, setList, destination, buffer, volume],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/electric', {
          signal,
          params: {
            query: { rig: rig ?? '', set_list: setList, destination, buffer_before: buffer, volume },
          },
        }),
      ),
    enabled: Boolean(rig),
    placeholderData: keepPreviousData,
  })
}

/** The times of every song of a set, and what the delays of a rig are asked and set to. */
export function useTempo(setList: string | undefined, rig: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['order', 'tempo', setList, rig, destination],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/tempo', {
          signal,
          params: { query: { set_list: setList ?? '', rig, destination } },
        }),
      ),
    enabled: Boolean(setList),
    placeholderData: keepPreviousData,
  })
}

/** The lengths of notes at a tempo. */
export function useNotes(tempo: { bpm: number; beat?: string }) {
  return useQuery({
    queryKey: ['notes', tempo.bpm, tempo.beat],
    queryFn: () =>
      answer(client.GET('/api/tempo/notes', { params: { query: { bpm: tempo.bpm, beat: tempo.beat } } })),
    staleTime: Infinity,
    placeholderData: keepPreviousData,
  })
}

/** What feeds each box of a rig, and the best assignment. */
export function usePower(rig: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['order', 'power', rig, destination],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/power', { signal, params: { query: { rig: rig ?? '', destination } } })),
    enabled: Boolean(rig),
    placeholderData: keepPreviousData,
  })
}

/** Reach when songs are called in any order. */
export function useAnyOrder(rig: string | undefined, setList: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['reach', 'any-order', rig, setList, destination],
    queryFn: () =>
      answer(
        client.GET('/api/reach/any-order', {
          params: { query: { rig: rig ?? '', set_list: setList ?? '', destination } },
        }),
      ),
    enabled: Boolean(rig && setList),
    placeholderData: keepPreviousData,
  })
}

/** What every program of a rig sends, and to whom. */
export function useMidi(rig: string | undefined, destination?: string) {
  return useQuery({
    queryKey: ['midi', rig, destination],
    queryFn: () => answer(client.GET('/api/midi', { params: { query: { rig: rig ?? '', destination } } })),
    enabled: Boolean(rig),
    placeholderData: keepPreviousData,
  })
}

export function useKinds() {
  return useQuery({
    queryKey: ['kinds'],
    queryFn: () => answer(client.GET('/api/kinds')),
    staleTime: Infinity,
  })
}

export function useUses(id: string | undefined) {
  return useQuery({
    queryKey: ['uses', id],
    queryFn: () => answer(client.GET('/api/uses/{id}', { params: { path: { id: id ?? '' } } })),
    enabled: Boolean(id),
  })
}

export function useHistory() {
  return useQuery({ queryKey: ['history'], queryFn: () => answer(client.GET('/api/history')) })
}

type Cell<K extends Collection> = { version: number; value: Aggregates[K] }

function cells<K extends Collection>(plan: WholePlan, kind: K): Cell<K>[] {
  return plan[listOf[kind]] as unknown as Cell<K>[]
}

function withCell<K extends Collection>(plan: WholePlan, kind: K, cell: Cell<K>): WholePlan {
  const list = cells(plan, kind)
  const at = list.findIndex((c) => c.value.id === cell.value.id)
  const next = at < 0 ? [...list, cell] : list.map((c, i) => (i === at ? cell : c))
  return { ...plan, [listOf[kind]]: next }
}

// Writes go out one after the other, each based on what the one before led to, so that two
// quick edits of the same thing never refuse each other.
let queue: Promise<unknown> = Promise.resolve()

function queued<T>(work: () => Promise<T>): Promise<T> {
  const run = queue.then(work, work)
  queue = run.catch(() => undefined)
  return run
}

async function settle(cache: QueryClient) {
  await Promise.all([
    cache.invalidateQueries({ queryKey: planKey }),
    cache.invalidateQueries({ queryKey: ['reach'] }),
    cache.invalidateQueries({ queryKey: ['order'] }),
    cache.invalidateQueries({ queryKey: ['work'] }),
    cache.invalidateQueries({ queryKey: ['midi'] }),
    cache.invalidateQueries({ queryKey: ['history'] }),
    cache.invalidateQueries({ queryKey: ['uses'] }),
    cache.invalidateQueries({ queryKey: ['journal'] }),
    cache.invalidateQueries({ queryKey: ['revisions'] }),
  ])
}

type Put = (
  path: string,
  init: {
    params: { path: { id: string }; query: { label: string } }
    headers: Record<string, string>
    body: { version: number; value: unknown }
  },
) => Promise<{ data?: { version: number }; error?: never; response: Response }>

/** Writes that are repeated when the answer is lost go under one key, so they happen once. */
async function put(kind: Collection, id: string, label: string, body: { version: number; value: unknown }) {
  const send = () =>
    answer(
      (client.PUT as unknown as Put)(`/api/${kind}/{id}`, {
        params: { path: { id }, query: { label: label.slice(0, 200) } },
        headers: { 'Idempotency-Key': key },
        body,
      }),
    )
  const key = freshId()
  try {
    return await send()
  } catch (e) {
    if (e instanceof Problem && e.status === 0) return send()
    throw e
  }
}

/** What the screens change the plan with. Every change shows at once and is put back, with
 * the reason, when the server refuses it. */
export function useEdit() {
  const cache = useQueryClient()
  const { tell } = useNotices()
  return useMemo(() => {
    async function guarded<T>(work: () => Promise<T>): Promise<T | undefined> {
      try {
        return await queued(work)
      } catch (e) {
        tell(e instanceof Problem ? e : new Problem(0, undefined))
        return undefined
      } finally {
        await settle(cache)
      }
    }
    const show = () => cache.setQueryData(planKey, shown())
    const cellOf = <K extends Collection>(kind: K, id: string) =>
      server && cells(server, kind).find((c) => c.value.id === id)
    return {
      /** Change one thing; the update gets it as it is when the write goes out. */
      change<K extends Collection>(
        kind: K,
        id: string,
        label: string,
        update: (value: Aggregates[K]) => Aggregates[K],
      ) {
        const edit = {
          apply: (plan: WholePlan) => {
            const cell = cells(plan, kind).find((c) => c.value.id === id)
            return cell ? withCell(plan, kind, { version: cell.version, value: update(cell.value) }) : plan
          },
        }
        pending = [...pending, edit]
        show()
        return guarded(async () => {
          try {
            await cache.cancelQueries({ queryKey: planKey })
            const cell = cellOf(kind, id)
            if (!server || !cell) return undefined
            const value = update(cell.value)
            const done = await put(kind, id, label, { version: cell.version, value })
            server = withCell(server, kind, { version: done.version, value })
            return done
          } finally {
            pending = pending.filter((p) => p !== edit)
            show()
          }
        })
      },
      /** Add something new. */
      add<K extends Collection>(kind: K, label: string, value: Aggregates[K]) {
        return guarded(() => put(kind, value.id, label, { version: 0, value }))
      },
      /** Remove something; refused while it is in use. */
      remove(kind: Collection, id: string) {
        return guarded(() => {
          const params = { path: { id }, query: { version: cellOf(kind, id)?.version ?? 1 } }
          return answer(client.DELETE(`/api/${kind}/{id}` as '/api/gear/{id}', { params }))
        })
      },
      /** Carry out the edits of a repair, all of them or none; undone as one. */
      carryOut: (body: Parameters<typeof carryOut>[0]) => guarded(() => carryOut(body)),
      /** Carry a change of a show's night over to its rig, or leave it to that night. */
      decide: (show: string, fix: number, keep: boolean) =>
        guarded(() => {
          const params = { path: { id: show, fix } }
          const body = { version: cellOf('shows', show)?.version ?? 1 }
          return answer(
            keep
              ? client.POST('/api/shows/{id}/fixes/{fix}/keep', { params, body })
              : client.POST('/api/shows/{id}/fixes/{fix}/leave', { params, body }),
          )
        }),
      /** Write a fresh battery down for a show; its hours begin anew. */
      freshBattery: (show: string, gear: string) =>
        guarded(() =>
          answer(
            client.POST('/api/shows/{id}/batteries/{gear}', {
              params: { path: { id: show, gear } },
              body: { version: cellOf('shows', show)?.version ?? 1 },
            }),
          ),
        ),
      /** Bring a version of a thing back, as a new one. */
      restore: (kind: Collection, id: string, version: number) =>
        guarded(() =>
          answer(
            client.POST('/api/revisions/{id}/restore', {
              params: { path: { id } },
              body: { version, read: cellOf(kind, id)?.version ?? 0 },
            }),
          ),
        ),
      undo: (transaction?: number) =>
        guarded(() => answer(client.POST('/api/undo', { body: transaction ? { transaction } : {} }))),
      redo: () => guarded(() => answer(client.POST('/api/redo', { body: {} }))),
      loadDemo: () => guarded(() => answer(client.POST('/api/demo'))),
      settle: () => settle(cache),
    }
  }, [cache, tell])
}

export type Edit = ReturnType<typeof useEdit>

/** Look-ups by id in the plan. */
export function useLookup(plan: WholePlan | undefined) {
  return useCallback(
    <K extends Collection>(kind: K, id: string | undefined): Aggregates[K] | undefined =>
      plan && id ? cells(plan, kind).find((c) => c.value.id === id)?.value : undefined,
    [plan],
  )
}

/** The values of one kind, without their versions. */
export function values<K extends Collection>(plan: WholePlan, kind: K): Aggregates[K][] {
  return cells(plan, kind).map((c) => c.value)
}

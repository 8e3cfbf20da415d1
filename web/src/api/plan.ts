import { keepPreviousData, type QueryKey, type UseQueryResult, useQuery } from '@tanstack/react-query'
import { useCallback, useSyncExternalStore } from 'react'
import { planKey } from '../edits/desk'
import { cells, withNews } from '../edits/plan'
import { useDesk } from '../edits/useDesk'
import { answer, client, computedFrom } from './client'
import type { Aggregates, Collection, WholePlan } from './types'

/** Everything there is, with the edits that are on their way. */
export function usePlan() {
  const desk = useDesk()
  const { error } = useQuery({
    queryKey: planKey,
    queryFn: async ({ signal, client: cache }) => {
      const plan = await answer(client.GET('/api/plan', { signal }))
      return withNews(cache.getQueryData<WholePlan>(planKey), plan) ?? plan
    },
    staleTime: Number.POSITIVE_INFINITY,
    structuralSharing: false,
  })
  return { data: useSyncExternalStore(desk.subscribe, desk.shown), error }
}

/** Whether nothing of this page is on its way to the server. */
export function useSettled() {
  const desk = useDesk()
  return useSyncExternalStore(desk.subscribe, desk.isSettled)
}

/** An answer that was computed from the plan. The last one stays while the next is made. */
export interface Computed<T> {
  data: T | undefined
  error: Error | null
  /** Whether it was computed from the plan that is on the screen. */
  fresh: boolean
  /** What it was computed from, for a write that takes it up. */
  from: string | undefined
}

function useComputed<T>(
  queryKey: QueryKey,
  enabled: boolean,
  ask: (signal: AbortSignal) => Promise<T>,
): Computed<T> {
  // What is named here is what a change of is drawn for.
  const { data, error, isFetching, isPlaceholderData, isSuccess } = useQuery({
    queryKey,
    queryFn: ({ signal }) => ask(signal),
    enabled,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY, // the desk asks again when the plan has changed
  }) as UseQueryResult<T>
  const settled = useSettled()
  const fresh = settled && !isFetching && !isPlaceholderData && isSuccess
  return { data, error, fresh, from: computedFrom(data) }
}

/** The reach of a rig over a set list; the last answer stays while the next is made. */
export function useReach(rig: string | undefined, setList: string | undefined, destination?: string) {
  return useComputed(['reach', rig, setList, destination], Boolean(rig && setList), (signal) =>
    answer(
      client.GET('/api/reach', {
        signal,
        params: { query: { rig: rig ?? '', set_list: setList ?? '', destination } },
      }),
    ),
  )
}

/** What is wrong with a rig's order, and the best one. */
export function useOrder(rig: string | undefined, destination?: string) {
  return useComputed(['order', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/order', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
}

/** Where a box that is owned would best stand in a chain. */
export function usePlacing(rig: string, gear: string, destination?: string) {
  return useComputed(['order', 'place', rig, gear, destination], true, (signal) =>
    answer(client.GET('/api/place', { signal, params: { query: { rig, gear, destination } } })),
  )
}

/** Which boxes could stand where one does, in a swap slot. */
export function useSlotChoices(rig: string, box: string) {
  return useComputed(['order', 'slots', rig, box], true, (signal) =>
    answer(client.GET('/api/slots', { signal, params: { query: { rig, box } } })),
  )
}

/** Songs of a set that are played with other boxes or recipes than the rig stands with. */
export function usePlayedOtherwise(
  rig: string | undefined,
  setList: string | undefined,
  destination?: string,
) {
  return useComputed(['reach', 'otherwise', rig, setList, destination], Boolean(rig && setList), (signal) =>
    answer(
      client.GET('/api/slots/otherwise', {
        signal,
        params: { query: { rig: rig ?? '', set_list: setList ?? '', destination } },
      }),
    ),
  )
}

/** Every cable of a rig. */
export function useCables(rig: string | undefined, destination?: string) {
  return useComputed(['order', 'cables', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/cables', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
}

/** The treble each sound of a rig loses, with what is tried; the last answer stays while the next is made. */
export function useElectric(
  rig: string | undefined,
  tried: { setList?: string; destination?: string; buffer?: string; volume?: number },
) {
  const { setList, destination, buffer, volume } = tried
  return useComputed(
    ['order', 'electric', rig, setList, destination, buffer, volume],
    Boolean(rig),
    (signal) =>
      answer(
        client.GET('/api/electric', {
          signal,
          params: {
            query: { rig: rig ?? '', set_list: setList, destination, buffer_before: buffer, volume },
          },
        }),
      ),
  )
}

/** The times of every song of a set, and what the delays of a rig are asked and set to. */
export function useTempo(setList: string | undefined, rig: string | undefined, destination?: string) {
  return useComputed(['order', 'tempo', setList, rig, destination], Boolean(setList), (signal) =>
    answer(
      client.GET('/api/tempo', { signal, params: { query: { set_list: setList ?? '', rig, destination } } }),
    ),
  )
}

/** What a looper records and plays over a set, and what changes a layer. */
export function useLayers(rig: string | undefined, setList: string | undefined, destination?: string) {
  return useComputed(['order', 'layers', rig, setList, destination], Boolean(rig && setList), (signal) =>
    answer(
      client.GET('/api/layers', {
        signal,
        params: { query: { rig: rig ?? '', set_list: setList ?? '', destination } },
      }),
    ),
  )
}

/** The presets of a delay or reverb by what they mean. It fails where the device cannot hold them. */
export function useMeanings(
  rig: string | undefined,
  setList: string | undefined,
  gear: string,
  notes: string[],
  repeats: number[],
) {
  return useComputed(
    ['order', 'meanings', rig, setList, gear, notes, repeats],
    Boolean(rig && setList),
    (signal) =>
      answer(
        client.GET('/api/tempo/meanings', {
          signal,
          params: {
            query: {
              rig: rig ?? '',
              set_list: setList ?? '',
              gear,
              notes: notes.length ? notes : undefined,
              repeats: repeats.length ? repeats : undefined,
            },
          },
        }),
      ),
  )
}

/** The presets of a device in the order in which a set first calls for them. */
export function useSetOrder(rig: string | undefined, setList: string | undefined, gear: string) {
  return useComputed(['order', 'set-order', rig, setList, gear], Boolean(rig && setList), (signal) =>
    answer(
      client.GET('/api/tempo/set-order', {
        signal,
        params: { query: { rig: rig ?? '', set_list: setList ?? '', gear } },
      }),
    ),
  )
}

/** What storing the times of a set would do. It fails where there are too few presets. */
export function useStoring(setList: string | undefined, rig: string | undefined, sound?: string) {
  return useQuery({
    queryKey: ['order', 'storing', setList, rig, sound],
    queryFn: ({ signal }) =>
      answer(
        client.GET('/api/tempo/store', {
          signal,
          params: { query: { set_list: setList ?? '', rig: rig ?? '', sound } },
        }),
      ),
    enabled: Boolean(setList && rig),
    retry: false,
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

/** How a rig stands on its boards, and what does not fit. */
export function useBoard(rig: string | undefined, setList?: string, destination?: string) {
  return useComputed(['order', 'floor', rig, setList, destination], Boolean(rig), (signal) =>
    answer(
      client.GET('/api/floor', {
        signal,
        params: { query: { rig: rig ?? '', set_list: setList, destination } },
      }),
    ),
  )
}

/** Every rule of order, and how it stands on a rig. */
export function useLessons(rig: string | undefined, destination: string | undefined) {
  return useComputed(['order', 'lessons', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/order/lessons', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
}

/** What is not said yet that the answers hang on. */
export function useNext(rig: string | undefined, setList: string | undefined) {
  return useComputed(['order', 'next', rig, setList], true, (signal) =>
    answer(client.GET('/api/next', { signal, params: { query: { rig, set_list: setList } } })),
  )
}

/** Boards of plain sizes. */
export function usePlainBoards() {
  return useQuery({
    queryKey: ['plain-boards'],
    queryFn: ({ signal }) => answer(client.GET('/api/floor/sizes', { signal })),
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** What feeds each box of a rig, and the best assignment. */
export function usePower(rig: string | undefined, destination?: string) {
  return useComputed(['order', 'power', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/power', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
}

/** What every program of a rig sends, and to whom. */
export function useMidi(rig: string | undefined, destination?: string) {
  return useComputed(['midi', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/midi', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
}

/** Words for how dirty and how loud a sound is. */
export function useSoundWords() {
  return useQuery({
    queryKey: ['sound-words'],
    queryFn: () => answer(client.GET('/api/sound-words')),
    staleTime: Infinity,
  })
}

/** The starting values of how a player moves. */
export function useUsualFeet() {
  return useQuery({
    queryKey: ['feet'],
    queryFn: () => answer(client.GET('/api/feet')),
    staleTime: Number.POSITIVE_INFINITY,
  }).data?.usual
}

/** The sections of many songs by name. */
export function useSectionGroups(setList: string | undefined) {
  return useComputed(['order', 'sections', setList], true, (signal) =>
    answer(client.GET('/api/sections', { signal, params: { query: { set_list: setList } } })),
  )
}

export function useKinds() {
  return useQuery({
    queryKey: ['kinds'],
    queryFn: () => answer(client.GET('/api/kinds')),
    staleTime: Infinity,
  })
}

/** The kinds of parts that a band can have. */
export function usePartKinds() {
  return useQuery({
    queryKey: ['kinds', 'parts'],
    queryFn: () => answer(client.GET('/api/parts/kinds')),
    staleTime: Number.POSITIVE_INFINITY,
  }).data?.kinds
}

/** Who plays in the sections of a song. */
export function usePlaying(band: string | undefined, song: string | undefined) {
  return useComputed(['playing', band, song], Boolean(band && song), (signal) =>
    answer(
      client.GET('/api/parts/playing', { signal, params: { query: { band: band ?? '', song: song ?? '' } } }),
    ),
  )
}

/** Where the knobs of a rig stand, and where they were found good. */
export function useDialled(rig: string | undefined, destination?: string) {
  return useComputed(['dialled', rig, destination], Boolean(rig), (signal) =>
    answer(client.GET('/api/dialled', { signal, params: { query: { rig: rig ?? '', destination } } })),
  )
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

/** Look-ups by id in the plan. */
export function useLookup(plan: WholePlan | undefined) {
  return useCallback(
    <K extends Collection>(kind: K, id: string | undefined): Aggregates[K] | undefined =>
      plan && id ? cells(plan, kind).find((c) => c.value.id === id)?.value : undefined,
    [plan],
  )
}

// The values of a list that has not changed are the same list, so that nothing is drawn anew for it.
const valuesOf = new WeakMap<object, unknown[]>()

/** The values of one kind, without their versions. */
export function values<K extends Collection>(plan: WholePlan, kind: K): Aggregates[K][] {
  const list = cells(plan, kind)
  let found = valuesOf.get(list) as Aggregates[K][] | undefined
  if (!found) {
    found = list.map((c) => c.value)
    valuesOf.set(list, found)
  }
  return found
}

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client, freshId } from '../../api/client'
import type { PlayPress, PlayStep } from '../../api/types'
import { useChosen } from '../../state/place'

/** The script of the set on the rig. */
export function useScript() {
  const { rig, setList, destination } = useChosen()
  return useQuery({
    queryKey: ['order', 'script', rig?.id, setList?.id, destination?.id],
    queryFn: () =>
      answer(
        client.GET('/api/play/script', {
          params: {
            query: { rig: rig?.id ?? '', set_list: setList?.id ?? '', destination: destination?.id },
          },
        }),
      ),
    enabled: Boolean(rig && setList),
    placeholderData: keepPreviousData,
  })
}

/** Judging, keeping and fitting. */
export function usePlayed() {
  const { rig, setList, destination } = useChosen()
  const cache = useQueryClient()
  const body = (entry: string, presses: PlayPress[], until_s: number, hands: boolean) => ({
    rig: rig?.id ?? '',
    set_list: setList?.id ?? '',
    destination: destination?.id,
    entry,
    presses,
    until_s,
    hands,
  })
  const judge = (entry: string, presses: PlayPress[], until: number, hands: boolean) =>
    answer(client.POST('/api/play/judge', { body: body(entry, presses, until, hands) }))
  const keep = useMutation({
    mutationFn: (x: { entry: string; presses: PlayPress[]; until: number; hands: boolean }) =>
      answer(
        client.POST('/api/rehearsals', {
          params: { header: { 'Idempotency-Key': freshId() } },
          body: body(x.entry, x.presses, x.until, x.hands),
        }),
      ),
    onSettled: () => cache.invalidateQueries({ queryKey: ['rehearsals'] }),
  })
  const fit = useMutation({
    mutationFn: (steps: PlayStep[]) =>
      answer(
        client.POST('/api/play/fit', {
          body: { rig: rig?.id ?? '', set_list: setList?.id ?? '', destination: destination?.id, steps },
        }),
      ),
  })
  return { judge, keep, fit }
}

/** What was rehearsed of the set on the rig. */
export function useRehearsals() {
  const { rig, setList } = useChosen()
  return useQuery({
    queryKey: ['rehearsals', rig?.id, setList?.id],
    queryFn: () =>
      answer(
        client.GET('/api/rehearsals', {
          params: { query: { rig: rig?.id ?? '', set_list: setList?.id ?? '' } },
        }),
      ),
    enabled: Boolean(rig && setList),
  })
}

import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answer, client } from './client'
import type { paths } from './schema.gen'

/** The sheets there are. */
export function useSheets() {
  return useQuery({
    queryKey: ['sheets'],
    queryFn: () => answer(client.GET('/api/sheets')),
    staleTime: Infinity,
  })
}

/** What the columns of a set list as CSV may hold. */
export function useColumns() {
  return useQuery({
    queryKey: ['columns'],
    queryFn: () => answer(client.GET('/api/read/columns')),
    staleTime: Infinity,
  })
}

/** What stands in the way of a sheet of a show, in a sentence; undefined where nothing does. */
export function useSheetTrouble(show: string | undefined, kind: SheetKind): string | undefined {
  const { error } = useQuery({
    queryKey: ['order', 'sheet', show, kind],
    queryFn: () => answer(client.GET('/api/sheet', { params: { query: { show: show ?? '', kind } } })),
    enabled: Boolean(show),
    retry: false,
  })
  return error ? error.message : undefined
}

export type SheetKind = NonNullable<paths['/api/sheet']['get']['parameters']['query']>['kind']

export type LineKind = 'before' | 'fault' | 'change' | 'battery' | 'after'

/** What was written down of shows, the latest first. */
export function useJournal(asked: { text?: string; gear?: string; show?: string; kind?: LineKind }) {
  return useQuery({
    queryKey: ['journal', asked],
    queryFn: () => answer(client.GET('/api/journal', { params: { query: asked } })),
    placeholderData: keepPreviousData,
  })
}

/** Every version of one thing, the latest first. */
export function useRevisions(id: string | undefined) {
  return useQuery({
    queryKey: ['revisions', id],
    queryFn: () => answer(client.GET('/api/revisions/{id}', { params: { path: { id: id ?? '' } } })),
    enabled: Boolean(id),
  })
}

/** What is different between two versions of one thing, in words. */
export function useDifferences(id: string | undefined, from: number | undefined, to: number | undefined) {
  return useQuery({
    queryKey: ['revisions', id, 'between', from, to],
    queryFn: () =>
      answer(
        client.GET('/api/revisions/{id}/compare', {
          params: { path: { id: id ?? '' }, query: { from: from ?? 0, to } },
        }),
      ),
    enabled: Boolean(id && from),
    placeholderData: keepPreviousData,
  })
}

/** Where a sheet of a show is, as a file. */
export function sheetFile(show: string, kind: string, format: string, paper: string, save = false): string {
  const query = new URLSearchParams({ show, kind, format, paper })
  if (save) query.set('save', 'true')
  return `/api/sheet/file?${query}`
}

/** Where the page for the night of a show is. */
export function nightPage(show: string, save = false): string {
  return `/api/page?${new URLSearchParams(save ? { show, save: 'true' } : { show })}`
}

import type { Section, Song } from '../../api/types'

type Looping = NonNullable<Section['looping']>

/** The layers that a song records, in order. */
export const layersOf = (song: Pick<Song, 'sections'>): string[] =>
  song.sections.flatMap((s) => (s.looping?.records ? [s.looping.records] : []))

/** The layers that can be spoken of in a section: those recorded up to it, and those it plays all the same. */
export function known(list: Section[], id: string): string[] {
  const at = list.findIndex((s) => s.id === id)
  const plays = list[at]?.looping?.plays ?? []
  return layersOf({ sections: list }).filter(
    (name) => plays.includes(name) || list.findIndex((s) => s.looping?.records === name) <= at,
  )
}

/** What of a section's looping a copy of the section has: a layer is recorded once. */
export function playingOnly(l: Looping | undefined): Looping | undefined {
  return l?.plays?.length ? { plays: l.plays } : undefined
}

const tidy = (l: Looping): Looping | undefined =>
  l.records || l.plays?.length
    ? { ...l, plays: l.plays?.length ? l.plays : undefined, bars: l.records ? l.bars : undefined }
    : undefined

const withLooping = (s: Section, update: (l: Looping) => Looping): Section => ({
  ...s,
  looping: tidy(update(s.looping ?? {})),
})

/** The sections without a layer: nothing records it, nothing plays it. */
const forget = (list: Section[], layer: string): Section[] =>
  list.map((s) =>
    s.looping
      ? withLooping(s, (l) => ({
          ...l,
          records: l.records === layer ? undefined : l.records,
          plays: l.plays?.filter((n) => n !== layer),
        }))
      : s,
  )

/** The sections with a layer recorded in one of them, or with its layer taken out. A new one runs to the end of
 * the song. */
export function recording(list: Section[], id: string): Section[] {
  const at = list.findIndex((s) => s.id === id)
  const was = list[at]?.looping?.records
  if (was) return forget(list, was)
  const taken = layersOf({ sections: list })
  let n = taken.length + 1
  while (taken.includes(`Layer ${n}`)) n += 1
  const name = `Layer ${n}`
  return list.map((s, i) =>
    i < at
      ? s
      : withLooping(s, (l) =>
          i === at ? { ...l, records: name } : { ...l, plays: [...(l.plays ?? []), name] },
        ),
  )
}

/** The sections with a layer called otherwise, wherever it is recorded or played. */
export const renamed = (list: Section[], from: string, to: string): Section[] =>
  list.map((s) =>
    s.looping
      ? withLooping(s, (l) => ({
          ...l,
          records: l.records === from ? to : l.records,
          plays: l.plays?.map((n) => (n === from ? to : n)),
        }))
      : s,
  )

/** The sections with a layer running in one of them, or not. */
export const running = (list: Section[], id: string, layer: string, on: boolean): Section[] =>
  list.map((s) =>
    s.id === id
      ? withLooping(s, (l) => ({
          ...l,
          plays: on ? [...(l.plays ?? []), layer] : l.plays?.filter((n) => n !== layer),
        }))
      : s,
  )

/** The sections with the length of a layer. */
export const lasting = (list: Section[], id: string, bars: number | undefined): Section[] =>
  list.map((s) => (s.id === id ? withLooping(s, (l) => ({ ...l, bars })) : s))

/** The sections without one of them, and without the layer it recorded. */
export function without(list: Section[], id: string): Section[] {
  const layer = list.find((s) => s.id === id)?.looping?.records
  const rest = list.filter((s) => s.id !== id)
  return layer ? forget(rest, layer) : rest
}

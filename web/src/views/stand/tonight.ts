import type { components } from '../../api/schema.gen'

type Schemas = components['schemas']
export type Tonight = Schemas['Night']
export type NightEvent = Schemas['NightEvent']
export type Step = Schemas['NightStep']
export type Call = Schemas['ReachCall']
export type Break = Schemas['NightBreak']
export type Entry = Schemas['NightEntry']

/** A place of the show. */
export interface Place {
  entry?: string
  section?: string
}

/** Where a page stands, and since when by the clock of this page. */
export interface Position extends Place {
  page: string
  name: string
  rig: string
  since: number
  leads: boolean
}

/** What a page keeps of a show, so that it works without the network. */
export interface Held {
  night?: Tonight
  /** When it came, by the clock of this page. */
  at: number
  /** What happened here and has not been told yet, with times of this page. */
  outbox: NightEvent[]
  /** What was heard since the night came, with times of the server. */
  heard: NightEvent[]
  /** Where this page stands, since it was told so last: its own order is not left to clocks. */
  own?: Place & { since: number; leads: boolean }
  breaks?: Break[]
}

export const nothing: Held = { at: 0, outbox: [], heard: [] }

/** Events after which what is left of the show is another. */
const replans = new Set<NightEvent['kind']>(['called', 'dropped', 'broke', 'mended', 'undone', 'over'])
export const isReplanning = (e: NightEvent) => replans.has(e.kind)

/** Events in the order they happened, each once; what is told already goes before what is not. */
export function eventsOf(held: Held): NightEvent[] {
  const away = held.night ? held.night.now_ms - held.at : 0
  const own = held.outbox.map((e) => ({ ...e, at_ms: e.at_ms + away }))
  const byId = new Map<string, NightEvent>()
  for (const e of [...(held.night?.events ?? []), ...held.heard, ...own])
    if (!byId.has(e.id)) byId.set(e.id, e)
  return [...byId.values()].sort((a, b) => a.at_ms - b.at_ms || (a.id < b.id ? -1 : 1))
}

/** Where every page stands, with times of this page. */
export function positionsOf(held: Held): Position[] {
  const away = held.night ? held.at - held.night.now_ms : 0
  const latest = new Map<string, Position>()
  for (const e of eventsOf(held))
    if (e.kind === 'at')
      latest.set(e.page, {
        page: e.page,
        name: e.name ?? '',
        rig: e.rig ?? '',
        since: e.at_ms + away,
        leads: Boolean(e.leads),
        entry: e.entry,
        section: e.section,
      })
  return [...latest.values()]
}

/** The place that pages follow: where a page that leads stands that moved last. */
export const leaderOf = (positions: Position[]): Position | undefined =>
  positions.filter((p) => p.leads).sort((a, b) => b.since - a.since)[0]

/** Which step a place is; the first where it is none. */
export function indexOf(steps: Step[], place: Place | undefined): number {
  if (!place?.entry) return 0
  const exact = steps.findLastIndex((s) => s.entry === place.entry && s.section === place.section)
  if (exact >= 0) return exact
  return Math.max(
    0,
    steps.findIndex((s) => s.entry === place.entry),
  )
}

/** The last step of the song that a step is in. */
export function endOf(steps: Step[], from: number): number {
  let end = from
  while (steps[end + 1] && steps[end + 1]?.entry === steps[from]?.entry) end += 1
  return end
}

/** The way from a step to the beginning of a song, as it was worked out before; nothing where there is none. */
export function wayTo(night: Tonight, from: number, song: string): Call | undefined {
  const calls = night.evening.calls
  const column = calls?.songs.find((s) => s.song === song)?.column ?? -1
  const row = calls?.rows[from] ?? -1
  return calls?.ways[row]?.[column]
}

/** The steps of a night with what happened here and could not be told yet. Songs that were called take their place with the
 * presses that were worked out before; what broke waits for the server. */
export function stepsOf(held: Held): Step[] {
  const night = held.night
  if (!night) return []
  const undone = new Set(held.outbox.filter((e) => e.kind === 'undone').map((e) => e.of))
  let steps = night.evening.steps.map((step, was) => ({ step, was }))
  for (const e of held.outbox) {
    if (undone.has(e.id) || (e.kind !== 'called' && e.kind !== 'dropped')) continue
    const here = e.entry
      ? indexOf(
          steps.map((s) => s.step),
          e,
        )
      : -1
    const end =
      here < 0
        ? -1
        : endOf(
            steps.map((s) => s.step),
            here,
          )
    const rest = steps.slice(end + 1)
    const played = steps.slice(0, e.now && here >= 0 ? here + 1 : end + 1)
    if (e.kind === 'dropped') {
      steps = [...played, ...rest.filter((s) => s.step.entry !== e.drops)]
      continue
    }
    const entry = rest.find((s) => s.step.song === e.song)?.step.entry
    if (!entry) continue // its sections are not known here: the server has them
    const called = rest.filter((s) => s.step.entry === entry)
    steps = [...played, ...called, ...rest.filter((s) => s.step.entry !== entry)]
  }
  return steps.map(({ step, was }, i) => {
    const before = steps[i - 1]
    if (!step.starts || !before || before.was === was - 1) return step
    const way = wayTo(night, before.was, step.song)
    if (!way) return { ...step, segue: false }
    return {
      ...step,
      segue: false,
      verdict: way.verdict,
      needed_s: way.needed_s,
      free_s: way.free_s,
      presses: way.presses,
      pressed: way.presses.map((p) => p.act),
      hands: way.hands,
      reason: way.reason,
    }
  })
}

/** Whether something waits that only the server can work out. */
export const waitsForServer = (held: Held): boolean =>
  held.outbox.some(
    (e) =>
      e.kind === 'broke' ||
      e.kind === 'mended' ||
      (e.kind === 'called' && !held.night?.evening.order.some((o) => o.song === e.song)),
  )

/** How long ago something was, in words. */
export function ago(ms: number): string {
  const s = Math.max(0, Math.round(ms / 1000))
  if (s < 60) return `${s} s`
  const min = Math.round(s / 60)
  return min < 90 ? `${min} min` : `${Math.round(min / 60)} h`
}

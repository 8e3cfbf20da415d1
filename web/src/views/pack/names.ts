import type { JournalLine, Show } from '../../api/types'
import { longDate } from '../../ui/dates'

/** "Quay stage, 12 June 2027" */
export function showName(s: Pick<Show, 'name' | 'date'>): string {
  const when = longDate(s.date)
  return when ? `${s.name}, ${when}` : s.name
}

/** What came of a line of the log. */
export function cameOf(l: JournalLine): string {
  if (l.kind === 'fault') return l.cured ? `Cured: ${l.cured}` : 'Not cured yet'
  if (l.kind !== 'change') return ''
  const what = l.carries ? `: ${l.carries}` : ''
  if (l.keep === 'kept') return `Kept${what}`
  if (l.keep === 'left') return 'That night alone'
  return `To be decided${what}`
}

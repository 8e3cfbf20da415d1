import type { JournalLine, Show } from '../../api/types'

/** "Quay stage, 12 June 2027" */
export function showName(s: Pick<Show, 'name' | 'date'>): string {
  const when = showDate(s.date)
  return when ? `${s.name}, ${when}` : s.name
}

/** "12 June 2027"; what is no date stays as it is. */
export function showDate(iso: string | undefined): string {
  if (!iso) return ''
  const date = new Date(`${iso}T12:00:00`)
  return Number.isNaN(date.getTime())
    ? iso
    : date.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
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

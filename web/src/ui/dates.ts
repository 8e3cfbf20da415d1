// Dates and times as they are said on the screens, in one place.

// Made once: making one takes longer than a hundred dates.
const format = (options: Intl.DateTimeFormatOptions) => new Intl.DateTimeFormat('en-GB', options)
const long = format({ day: 'numeric', month: 'long', year: 'numeric' })
const short = format({ day: 'numeric', month: 'long' })
const clock = format({ day: '2-digit', month: 'short', hour: '2-digit', minute: '2-digit' })

const said = (iso: string, as: Intl.DateTimeFormat): string => {
  const date = new Date(`${iso}T12:00:00`)
  return Number.isNaN(date.getTime()) ? iso : as.format(date)
}

/** "12 June 2027"; what is no date stays as it is, and of none nothing is said. */
export const longDate = (iso: string | undefined): string => (iso ? said(iso, long) : '')

/** "12 June" */
export const dayAndMonth = (iso: string): string => said(iso, short)

/** "12 Jun, 21:40", where the clock of this machine has it. */
export const moment = (iso: string): string => clock.format(new Date(iso))

/** The day it is where this machine stands, as year-month-day. */
export const today = (now = new Date()): string =>
  [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((n) => String(n).padStart(2, '0')).join('-')

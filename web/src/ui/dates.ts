// Dates and times as they are said on the screens, in one place.

const said = (iso: string, options: Intl.DateTimeFormatOptions): string => {
  const date = new Date(`${iso}T12:00:00`)
  return Number.isNaN(date.getTime()) ? iso : date.toLocaleDateString('en-GB', options)
}

/** "12 June 2027"; what is no date stays as it is, and of none nothing is said. */
export const longDate = (iso: string | undefined): string =>
  iso ? said(iso, { day: 'numeric', month: 'long', year: 'numeric' }) : ''

/** "12 June" */
export const dayAndMonth = (iso: string): string => said(iso, { day: 'numeric', month: 'long' })

/** "12 Jun, 21:40", where the clock of this machine has it. */
export const moment = (iso: string): string =>
  new Date(iso).toLocaleString('en-GB', {
    day: '2-digit',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  })

const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
const MOMENT = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  timeZone: 'UTC',
})

/** “10 Feb 2027” of an ISO date; the same on the server and in the browser. */
export const day = (iso: string): string => DAY.format(new Date(iso))

/** “10 Feb 2027, 14:05 UTC” */
export const moment = (iso: string): string => `${MOMENT.format(new Date(iso))} UTC`

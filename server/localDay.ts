import { formatISO } from 'date-fns'

/** The calendar day, where Hypomet runs, of a moment: “2026-11-28”. */
export const localDay = (at: Date | string | number = new Date()): string =>
  formatISO(new Date(at), { representation: 'date' })

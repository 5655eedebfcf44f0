import { addDays, differenceInCalendarDays, format, formatISO, isMatch, parseISO } from 'date-fns'

/* Calendar days as text, “2026-11-28”: in the time zone of whoever asks, never in UTC. */

/** The day of a moment; of now when none is given. */
export const localDay = (at: Date | string | number = new Date()): string =>
  formatISO(typeof at === 'string' ? parseISO(at) : at, { representation: 'date' })

export const isDay = (text: string): boolean => /^\d{4}-\d{2}-\d{2}$/.test(text) && isMatch(text, 'yyyy-MM-dd')

export const dayAfter = (day: string, days = 1): string => localDay(addDays(parseISO(day), days))

/** From the first to the second; below zero when that came before. */
export const daysBetween = (from: string, to: string): number => differenceInCalendarDays(parseISO(to), parseISO(from))

/** “28 Nov 2026” */
export const dayText = (at: string): string => format(parseISO(at), 'd MMM yyyy')

/** “28 Nov 2026, 14:05” */
export const momentText = (at: string): string => format(parseISO(at), 'd MMM yyyy, HH:mm')

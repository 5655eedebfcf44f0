import { dayText, localDay as dayOf, momentText } from '@hypomet/core'

/** “10 Feb 2027” of an ISO date or moment. */
export const day = (iso: string): string => dayText(iso)

/** “10 Feb 2027, 14:05” */
export const moment = (iso: string): string => momentText(iso)

/** The day of a moment, “2027-02-10”; of now when none is given. */
export const localDay = (at?: string): string => dayOf(at)

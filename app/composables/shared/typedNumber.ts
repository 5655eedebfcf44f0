import { numberOf } from '@hypomet/core'

/** A plain number as people type it; NaN where it is none, or may be two. */
export const typedNumber = (text: string): number => numberOf(text)

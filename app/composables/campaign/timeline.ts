import { daysBetween } from '@hypomet/core'

/** Where a date lies between two others, 0 … 1. */
export function shareOfSpan(from: string, to: string, on: string): number {
  const span = daysBetween(from, to)
  return span === 0 ? 0.5 : Math.min(1, Math.max(0, daysBetween(from, on) / span))
}

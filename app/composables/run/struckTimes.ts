import { readingAt, STRUCK } from '@hypomet/core'

/** Readings by hand of a run that were struck out. */
export function struckTimes<E extends { t: number; kind: string; reading: number | null; role?: string | null }>(
  events: readonly E[],
): ReadonlySet<E> {
  return new Set(events.flatMap(e => (e.kind === STRUCK && e.role ? (readingAt(events, e.t, e.role) ?? []) : [])))
}

import type { ResultDeclaration } from '../method/results'
import type { Result } from '../method/reduction'

export const CAUSES = ['none', 'article', 'fixture', 'instrumentation', 'procedure', 'manufacture'] as const
/** What ended a test, as judged. */
export type Cause = (typeof CAUSES)[number]

/** Causes that say nothing of what the article would have carried on to. */
export const endsEarly = (cause: Cause | null): boolean =>
  cause === 'fixture' || cause === 'instrumentation' || cause === 'procedure'

/**
 * Results as they stand under the cause that was judged: where not the article ended the test, what it carried until
 * then is a lower bound, whatever the reduction took it for. Of an interval its lower end counts. Results that do not
 * hang on the end stay as they are.
 *
 * @example
 * underCause({ peakForce: { value: 100, unit: 'N', bound: 'exact' } }, 'fixture', pull.results) // bound 'atLeast'
 */
export function underCause(
  results: Readonly<Record<string, Result>>,
  cause: Cause | null,
  declared: Readonly<Record<string, ResultDeclaration>>,
): Record<string, Result> {
  if (!endsEarly(cause)) return { ...results }
  return Object.fromEntries(
    Object.entries(results).map(([key, r]) => [key, declared[key]?.atEnd && r.bound !== 'atMost' ? atLeast(r) : r]),
  )
}

/** The end of an interval holds its uncertainty already, where one is known. */
const atLeast = (r: Result): Result =>
  typeof r.bound === 'object'
    ? { ...r, value: r.bound.interval[0], bound: 'atLeast', ...(r.u === undefined ? {} : { u: 0 }) }
    : { ...r, bound: 'atLeast' }

import type { Result } from '../method/reduction'
import { decide, expandedBeside, lacksUncertainty, type Comparator, type DecisionRule, type Validity } from './decide'

/** What would decide a limit that stands undecided; SI of its quantity. */
export type Deciding =
  /** Another run: this one shows nothing, or gave no value. */
  | { kind: 'again'; why: 'invalid' | 'no-value' }
  /** Somebody says how far the value may be off. */
  | { kind: 'uncertainty' }
  /**
   * A smaller uncertainty; `then` is how it would be decided if the value stays. `part` is the largest share of it, and
   * `repeats` so many runs would do where readings scatter.
   */
  | {
      kind: 'narrow'
      from: number
      to: number
      then: 'pass' | 'fail'
      part: { name: string; share: number } | null
      repeats: number | null
    }
  /** A run that gets so far. */
  | { kind: 'further'; to: number }
  /** A run that goes to the end of the article. */
  | { kind: 'end' }
  /** Smaller steps between what is called out, or a peak that is recorded. */
  | { kind: 'steps'; from: number; to: number }

/** Scatter grows smaller with repeats; what a sensor may be off does not. */
const REPEATABLE = /scatter|noise/
const MOST_REPEATS = 30

/**
 * Works out from a result and its budget what would decide a limit that it leaves open. Empty where it is decided.
 *
 * @param result  SI, under the judged cause
 * @example whatDecides({ value: 4.9, u: 0.085, k: 2, bound: 'exact' }, 'atMost', 5, 'guarded')
 * // [{ kind: 'narrow', from: 0.17, to: 0.1, then: 'pass', … }]
 */
export function whatDecides(
  result: Pick<Result, 'value' | 'bound' | 'u' | 'k' | 'parts'>,
  comparator: Comparator,
  limit: number,
  rule: DecisionRule,
  { validity = null, isCounted = false }: { validity?: Validity | null; isCounted?: boolean } = {},
): Deciding[] {
  const { value, bound } = result
  if (validity === 'invalid') return [{ kind: 'again', why: 'invalid' }]
  if (value === null) return [{ kind: 'again', why: 'no-value' }]
  if (decide(result, comparator, limit, rule, isCounted).verdict !== 'undecided') return []
  const isUnknown = rule === 'guarded' && lacksUncertainty(result) && !isCounted
  const U = rule === 'guarded' ? expandedBeside(result) : 0
  if (bound === 'atLeast' || bound === 'atMost') {
    const open: Deciding[] = isUnknown ? [{ kind: 'uncertainty' }] : []
    // A bound on the side that the limit asks for decides by getting past it.
    if ((bound === 'atLeast') !== (comparator === 'atLeast')) return [...open, { kind: 'end' }]
    const to = comparator === 'atLeast' ? limit + U : limit - U
    const isPast = comparator === 'atLeast' ? value >= to : value <= to
    return isPast ? open : [...open, { kind: 'further', to }]
  }
  if (typeof bound === 'object') {
    const [low, high] = bound.interval
    const open: Deciding[] = isUnknown ? [{ kind: 'uncertainty' }] : []
    const isAcross = low <= limit && limit <= high
    return isAcross ? [...open, { kind: 'steps', from: high - low, to: Math.max(limit - low, high - limit) }] : open
  }
  if (isUnknown) return [{ kind: 'uncertainty' }]
  const room = (comparator === 'atMost' ? 1 : -1) * (limit - value)
  const to = Math.abs(room)
  const { parts = [] } = result
  const all = parts.reduce((s, p) => s + p.u ** 2, 0)
  const largest = parts.toSorted((a, b) => b.u - a.u)[0]
  const scatter = parts.filter(p => REPEATABLE.test(p.name)).reduce((s, p) => s + p.u ** 2, 0)
  return [
    {
      kind: 'narrow',
      from: U,
      to,
      then: room >= 0 ? 'pass' : 'fail',
      part: largest && all > 0 ? { name: largest.name, share: largest.u ** 2 / all } : null,
      repeats: repeatsFor(U ** 2, all > 0 ? scatter / all : 0, to),
    },
  ]
}

/** Fewest runs whose mean is known well enough; null where scatter is not what keeps it open. */
function repeatsFor(square: number, share: number, to: number): number | null {
  const left = to ** 2 - square * (1 - share)
  if (share <= 0 || left <= 0) return null
  const n = Math.ceil((square * share) / left - 1e-9)
  return n > 1 && n <= MOST_REPEATS ? n : null
}

import normalQuantile from '@stdlib/stats-base-dists-normal-quantile'
import { HypometError } from '../error'
import { noncentralTQuantile } from './noncentralT'

/**
 * One-sided normal tolerance factor: mean − k·s lies below a share `p` of the population with confidence `gamma`.
 * Exact, by the noncentral t distribution (not the large-sample approximation).
 *
 * @param n  specimens, ≥ 2
 * @returns  k, dimensionless
 * @throws   HypometError `too-few` when n < 2
 * @source   Natrella (1963), NBS Handbook 91, ch. 2
 * @example  toleranceFactor({ n: 5, p: 0.9, gamma: 0.95 }) // 3.4066
 */
export function toleranceFactor({ n, p, gamma }: { n: number; p: number; gamma: number }): number {
  if (!(n >= 2)) throw new HypometError('too-few', 'A tolerance factor needs at least two specimens.')
  const key = `${n} ${p} ${gamma}`
  let factor = known.get(key)
  if (factor === undefined) {
    factor = noncentralTQuantile(gamma, n - 1, normalQuantile(p, 0, 1) * Math.sqrt(n)) / Math.sqrt(n)
    known.set(key, factor)
  }
  return factor
}

/** A reduction whose uncertainty is drawn asks for the same factors again and again. */
const known = new Map<string, number>()

import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { meanSd } from './mean'

/**
 * Indices of outliers by the maximum normed residual at 5 %, again after each removal while three remain. They are
 * named, not left out: what to do with them is a decision.
 *
 * @source Stefansky (1972); CMH-17-1G, 8.3.3
 */
export function outliers(values: readonly number[]): number[] {
  const found: number[] = []
  const left = values.map((value, index) => ({ value, index }))
  while (left.length >= 3) {
    const { mean, sd, n } = meanSd(left.map(l => l.value))
    const worst = left.reduce((a, b) => (Math.abs(b.value - mean) > Math.abs(a.value - mean) ? b : a))
    const t = tQuantile(1 - 0.05 / (2 * n), n - 2)
    const critical = ((n - 1) / Math.sqrt(n)) * Math.sqrt((t * t) / (n - 2 + t * t))
    if (!(Math.abs(worst.value - mean) / sd > critical)) break
    found.push(worst.index)
    left.splice(left.indexOf(worst), 1)
  }
  return found
}

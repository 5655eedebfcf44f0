import { median } from './quantile'

/**
 * Slope and intercept by Theil and Sen: median of all pairwise slopes, then of the residuals. A third of the points may
 * be wild.
 */
export function theilSen(x: ArrayLike<number>, y: ArrayLike<number>): { slope: number; intercept: number } {
  const slopes: number[] = []
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!))
  const slope = median(slopes)
  return { slope, intercept: median(Array.from({ length: x.length }, (_, i) => y[i]! - slope * x[i]!)) }
}

import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { fitLine } from './line'
import { meanSd } from './mean'

/**
 * Where the next single observation lies with the given confidence, around an ordinary least-squares line.
 *
 * @returns  a function of x giving the line's value and the band's half width
 * @source Draper & Smith, Applied Regression Analysis, ch. 1.4
 */
export function predictionBand(
  x: ArrayLike<number>,
  y: ArrayLike<number>,
  confidence = 0.95,
): (at: number) => { value: number; half: number } {
  const { slope, intercept, residualSd, n } = fitLine(x, y)
  const { mean } = meanSd(x)
  let sxx = 0
  for (let i = 0; i < n; i++) sxx += (x[i]! - mean) ** 2
  const t = tQuantile((1 + confidence) / 2, n - 2)
  return at => ({ value: intercept + slope * at, half: t * residualSd * Math.sqrt(1 + 1 / n + (at - mean) ** 2 / sxx) })
}

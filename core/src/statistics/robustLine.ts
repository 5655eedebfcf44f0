/**
 * Slope and intercept by Theil and Sen: median of all pairwise slopes, then of the residuals. A third of the points may
 * be wild.
 */
export function theilSen(x: ArrayLike<number>, y: ArrayLike<number>): { slope: number; intercept: number } {
  const slopes: number[] = []
  for (let i = 0; i < x.length; i++)
    for (let j = i + 1; j < x.length; j++) if (x[j] !== x[i]) slopes.push((y[j]! - y[i]!) / (x[j]! - x[i]!))
  const slope = medianOf(slopes)
  return { slope, intercept: medianOf(Array.from({ length: x.length }, (_, i) => y[i]! - slope * x[i]!)) }
}

/** Middle value; mean of the two middle ones of an even count. */
export function medianOf(values: number[]): number {
  const sorted = values.toSorted((a, b) => a - b)
  const half = sorted.length >> 1
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2
}

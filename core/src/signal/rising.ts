import { HypometError } from '../error'

/** First index of the largest value. */
export function indexOfMax(y: Float64Array): number {
  let [at, most] = [0, y[0]!]
  for (let i = 1; i < y.length; i++)
    if (y[i]! > most) {
      most = y[i]!
      at = i
    }
  return at
}

/** Largest size, sign apart. */
export function largestSize(y: Float64Array): number {
  let most = 0
  for (let i = 0; i < y.length; i++) {
    const size = Math.abs(y[i]!)
    if (size > most) most = size
  }
  return most
}

/** Slope alone of `risingLine`. @throws HypometError `data-range` */
export const risingSlope = (
  x: Float64Array,
  y: Float64Array,
  guide: Float64Array,
  peak: number,
  shares: readonly [number, number],
  role: string,
): number => risingLine(x, y, guide, peak, shares, role).slope

/**
 * Line of least squares of y on x over the samples of the way up, to the peak of `guide`, whose guide lies between two
 * shares of it.
 *
 * @throws HypometError `data-range` with fewer than three such samples, at `channels.<role>`
 */
export function risingLine(
  x: Float64Array,
  y: Float64Array,
  guide: Float64Array,
  peak: number,
  [low, high]: readonly [number, number],
  role: string,
): { slope: number; intercept: number } {
  const [from, to] = [low * guide[peak]!, high * guide[peak]!]
  // Once for the means, once about them: as exact as fitLine, without a copy of what may be millions of samples.
  let [n, mx, my] = [0, 0, 0]
  for (let i = 0; i <= peak; i++) {
    const g = guide[i]!
    if (g < from || g > to) continue
    n++
    mx += x[i]!
    my += y[i]!
  }
  if (n < 3)
    throw new HypometError(
      'data-range',
      `Fewer than three samples lie between ${Math.round(100 * low)} and ${Math.round(100 * high)} % of the ` +
        `largest ${role} on the way up.`,
      { path: `channels.${role}` },
    )
  mx /= n
  my /= n
  let [sxx, sxy] = [0, 0]
  for (let i = 0; i <= peak; i++) {
    const g = guide[i]!
    if (g < from || g > to) continue
    const dx = x[i]! - mx
    sxx += dx * dx
    sxy += dx * (y[i]! - my)
  }
  return { slope: sxy / sxx, intercept: my - (sxy / sxx) * mx }
}

/** Integral of y over x from the first sample to each, by trapezoids. */
export function cumulativeIntegral(x: Float64Array, y: Float64Array): Float64Array {
  const sums = new Float64Array(x.length)
  for (let i = 1; i < x.length; i++) sums[i] = sums[i - 1]! + ((y[i]! + y[i - 1]!) / 2) * (x[i]! - x[i - 1]!)
  return sums
}

/** Where y passes `level` between two samples that lie on either side of it. */
export const crossingBetween = (x: Float64Array, y: Float64Array, i: number, level: number): number =>
  x[i]! + ((level - y[i]!) / (y[i + 1]! - y[i]!)) * (x[i + 1]! - x[i]!)

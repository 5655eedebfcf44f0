/** First index of the largest value; gaps are passed over. */
export function indexOfMax(y: Float64Array): number {
  let [at, most] = [0, -Infinity]
  for (let i = 0; i < y.length; i++)
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

/** Time from a record's first row, s: slopes over it do not suffer from where its clock stood. */
export const since = (t: Float64Array): Float64Array => (t.length > 0 && t[0] !== 0 ? t.map(v => v - t[0]!) : t)

/** An abscissa moves that spreads by more than so much of its largest size. */
const MOVES = 1e-9

/** Slope alone of `risingLine`. */
export const risingSlope = (...from: Parameters<typeof risingLine>): number | null => risingLine(...from)?.slope ?? null

/**
 * Line of least squares of y on x over the samples of the way up, to the peak of `guide`, whose guide lies between two
 * shares of it, both ends inside.
 *
 * @returns null with fewer than three such samples, or where x does not move there
 */
export function risingLine(
  x: Float64Array,
  y: Float64Array,
  guide: Float64Array,
  peak: number,
  [low, high]: readonly [number, number],
  most = guide[peak]!,
): { slope: number; intercept: number } | null {
  const [from, to] = [low * most, high * most]
  // Once for the means, once about them: as exact as fitLine, without a copy of what may be millions of samples.
  let [n, mx, my, least, largest] = [0, 0, 0, Infinity, -Infinity]
  for (let i = 0; i <= peak; i++) {
    const g = guide[i]!
    if (g < from || g > to) continue
    n++
    mx += x[i]!
    my += y[i]!
    if (x[i]! < least) least = x[i]!
    if (x[i]! > largest) largest = x[i]!
  }
  if (n < 3 || !moves(least, largest)) return null
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

const moves = (least: number, largest: number): boolean =>
  largest - least > MOVES * Math.max(Math.abs(least), Math.abs(largest))

/** Whether a line can be fitted over these abscissae: three or more, and they move. */
export function isSloped(x: Float64Array): boolean {
  let [least, largest] = [Infinity, -Infinity]
  for (let i = 0; i < x.length; i++) {
    if (x[i]! < least) least = x[i]!
    if (x[i]! > largest) largest = x[i]!
  }
  return x.length >= 3 && moves(least, largest)
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

export interface Lag {
  /** s, positive when `b` comes later. */
  lag: number
  /** At the peak, −1 … 1. */
  correlation: number
  isAtLimit: boolean
}

/**
 * How much later one channel comes than the other: largest cross-correlation of the two less their means, refined by a
 * parabola through three.
 *
 * @param a, b  same even time base, no gaps
 * @param interval  s
 * @param maxLag  s; only lags up to it are looked at
 */
export function findLag(a: Float64Array, b: Float64Array, interval: number, maxLag: number): Lag {
  const n = a.length
  const [x, y] = [withoutMean(a), withoutMean(b)]
  const most = Math.min(n - 1, Math.floor(maxLag / interval + 1e-9))
  const c = Float64Array.from({ length: 2 * most + 1 }, (_, i) => correlationAt(x, y, i - most))
  let peak = 0
  for (let i = 1; i < c.length; i++) if (c[i]! > c[peak]!) peak = i
  const isAtLimit = peak === 0 || peak === c.length - 1
  const { offset, height } = isAtLimit ? { offset: 0, height: c[peak]! } : vertex(c[peak - 1]!, c[peak]!, c[peak + 1]!)
  return {
    lag: (peak - most + offset) * interval,
    correlation: height / Math.sqrt(sumOfSquares(x) * sumOfSquares(y)),
    isAtLimit,
  }
}

const withoutMean = (v: Float64Array): Float64Array => {
  const mean = v.reduce((s, w) => s + w, 0) / v.length
  return v.map(w => w - mean)
}

const sumOfSquares = (v: Float64Array): number => v.reduce((s, w) => s + w * w, 0)

function correlationAt(a: Float64Array, b: Float64Array, k: number): number {
  let sum = 0
  for (let i = Math.max(0, -k), end = Math.min(a.length, a.length - k); i < end; i++) sum += a[i]! * b[i + k]!
  return sum
}

/** Vertex of the parabola through three equally spaced values: offset from the middle in steps, and height. */
export function vertex(left: number, middle: number, right: number): { offset: number; height: number } {
  const curvature = left - 2 * middle + right
  if (curvature === 0) return { offset: 0, height: middle }
  const offset = (left - right) / (2 * curvature)
  return { offset, height: middle - ((left - right) * offset) / 4 }
}

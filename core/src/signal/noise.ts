import { median, quantile } from '../statistics/quantile'
import { SeededRandom } from '../statistics/random'

/** Scatter of a channel: standard deviation of one reading, and the correlation of each with the next. */
export interface Noise {
  sigma: number
  /** 0 … 0.99, of a first-order autoregressive noise. */
  phi: number
  /** Degrees of freedom of sigma, where they are few. */
  dof?: number
}

const SILENT: Noise = { sigma: 0, phi: 0 }
/** Readings of a window, the longest that leaves eight of them; fewer readings say nothing of their scatter. */
const WIDTHS = [64, 32, 16]
const FEWEST_WINDOWS = 4
/** No more windows are looked at than that: a long record has enough of them. */
const MOST_WINDOWS = 1000
/** Windows with a step or a break in them lie above; of those without, this share of all lies below. */
const CLEAN = { share: 0.35, z: -0.3853 }

/**
 * Scatter of a record beside what it shows: residuals about a parabola in short windows along it. What a parabola takes
 * away of noise that hangs together is known, and put back.
 *
 * @param read  gaps are passed over
 * @source Box, Jenkins & Reinsel, Time Series Analysis, ch. 2
 */
export function noiseOf(read: Float64Array): Noise {
  const y = read.some(Number.isNaN) ? read.filter(v => !Number.isNaN(v)) : read
  const width = WIDTHS.find(w => y.length >= 2 * FEWEST_WINDOWS * w) ?? WIDTHS.at(-1)!
  const count = Math.floor(y.length / width)
  if (count < FEWEST_WINDOWS) return SILENT
  const stride = Math.max(1, Math.floor(count / MOST_WINDOWS))
  const windows: Scatter[] = []
  for (let w = 0; w < count; w += stride) windows.push(scatterOf(y.subarray(w * width, (w + 1) * width)))
  const quiet = quantile(
    windows.map(w => w.variance),
    CLEAN.share,
  )
  if (!(quiet > 0)) return SILENT
  // Those that are told by: not much louder than the quiet ones, so that none of them holds a step.
  const clean = windows.filter(w => w.variance <= 5 * quiet)
  const left = leftBy(width, median(clean.map(w => w.next)))
  const h = 2 / (9 * left.dof)
  const variance = quiet / left.share / (1 - h + CLEAN.z * Math.sqrt(h)) ** 3
  const bend = median(clean.map(w => w.bend))
  // Noise that hangs together is still rough; what is smoother than that swings, and is no noise.
  const isRough = bend >= ROUGH * variance * (6 - 8 * left.phi + 2 * left.phi ** 2)
  return isRough ? { sigma: Math.sqrt(variance), phi: left.phi } : { sigma: Math.sqrt(bend / 6), phi: 0 }
}

/** Of the second differences that such noise has, what it must show at least. */
const ROUGH = 0.4

interface Left {
  phi: number
  /** Correlation of each residual with the next. */
  next: number
  /** Of the variance of the noise, what the residuals have. */
  share: number
  /** Degrees of freedom of their mean square. */
  dof: number
}

const PHIS = [0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.85, 0.9, 0.93, 0.96, 0.98]
const tables = new Map<number, Left[]>()

/** What residuals about a parabola show of noise with each correlation, and the other way round. */
function leftBy(width: number, next: number): Left {
  let table = tables.get(width)
  if (!table) tables.set(width, (table = PHIS.map(phi => leftOf(width, phi))))
  const above = table.findIndex(l => l.next >= next)
  if (above === 0) return table[0]!
  if (above < 0) return table.at(-1)!
  const [a, b] = [table[above - 1]!, table[above]!]
  const part = (next - a.next) / (b.next - a.next)
  const of = (key: keyof Left) => a[key] + part * (b[key] - a[key])
  return { phi: of('phi'), next, share: of('share'), dof: of('dof') }
}

/** M = I − P of the parabola, S the noise’s correlations: traces of MS, of MSMS, and of the lagged residuals. */
function leftOf(n: number, phi: number): Left {
  const basis = parabola(n)
  const m = (i: number, j: number) => (i === j ? 1 : 0) - basis.reduce((sum, q) => sum + q[i]! * q[j]!, 0)
  const M = Array.from({ length: n }, (_, i) => Float64Array.from({ length: n }, (_, j) => m(i, j)))
  const S = Array.from({ length: n }, (_, i) => Float64Array.from({ length: n }, (_, j) => phi ** Math.abs(i - j)))
  const times = (A: Float64Array[], B: Float64Array[]) =>
    A.map(row => Float64Array.from({ length: n }, (_, j) => row.reduce((sum, v, k) => sum + v * B[k]![j]!, 0)))
  const R = times(times(M, S), M)
  let [own, next, square] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    own += R[i]![i]!
    if (i > 0) next += R[i]![i - 1]!
    for (let j = 0; j < n; j++) square += R[i]![j]! * R[j]![i]!
  }
  return { phi, next: next / own, share: own / n, dof: (own * own) / square }
}

/** 1, x and x² over an even grid, at right angles to one another and of length one. */
function parabola(n: number): Float64Array[] {
  const half = (n - 1) / 2
  const square = (half * (half + 1)) / 3
  const shapes = [() => 1, (x: number) => x, (x: number) => x * x - square]
  return shapes.map(shape => {
    const q = Float64Array.from({ length: n }, (_, i) => shape(i - half))
    const size = Math.sqrt(q.reduce((sum, v) => sum + v * v, 0))
    return q.map(v => v / size)
  })
}

const bases = new Map<number, Float64Array[]>()

interface Scatter {
  /** Mean square of the residuals about a parabola, on n, and of their second differences. */
  variance: number
  bend: number
  /** Correlation of each residual with the next. */
  next: number
}

function scatterOf(y: Float64Array): Scatter {
  const n = y.length
  let basis = bases.get(n)
  if (!basis) bases.set(n, (basis = parabola(n)))
  const e = y.slice()
  for (const q of basis) {
    let part = 0
    for (let i = 0; i < n; i++) part += q[i]! * e[i]!
    for (let i = 0; i < n; i++) e[i]! -= part * q[i]!
  }
  let [own, next, bend] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    own += e[i]! * e[i]!
    if (i > 0) next += e[i]! * e[i - 1]!
    if (i > 1) bend += (e[i]! - 2 * e[i - 1]! + e[i - 2]!) ** 2
  }
  return { variance: own / n, bend: bend / (n - 2), next: own > 0 ? next / own : 0 }
}

/** A stretch is so many thirds of readings that hang together, bends by no more than that, and scatters no more. */
const [THIRDS, STRAIGHT, LOUD] = [[16, 8, 4, 2], 1, 3]

/**
 * A record with most of its noise taken off: each reading on the line through the longest stretch about it that is
 * straight within its scatter, or the mean of `least` readings. Gaps, and readings beside them, stay.
 *
 * @return the calmer record, and the share of its readings that lie on longer stretches
 */
export function calmed(y: Float64Array, { sigma, phi }: Noise, least = 1): { y: Float64Array; share: number } {
  const together = (1 + phi) / (1 - phi)
  const { sum, squares, rising, gaps, middle } = sumsOf(y)
  const stretches = THIRDS.map(third => {
    const b = Math.round(third * together)
    const n = 3 * b
    return {
      b,
      bend: STRAIGHT * sigma * Math.sqrt((6 * together) / b) * b,
      scatter: sigma * sigma * n * (1 + LOUD * Math.sqrt((2 * together) / n)),
      sxx: (n * (n * n - 1)) / 12,
    }
  })
  const atLeast = (least - 1) / 2
  let wide = 0
  const calmer = y.map((v, i) => {
    for (const { b, bend, scatter, sxx } of stretches) {
      const n = 3 * b
      // Before an end, the line through the last stretch.
      const from = Math.max(0, Math.min(i - b - (b >> 1), y.length - n))
      const to = from + n
      if (to > y.length || gaps(from, to) > 0) continue
      const all = sum(from, to)
      if (Math.abs(all - 3 * sum(from + b, to - b)) > bend) continue
      const centre = (from + to - 1) / 2
      const slope = (rising(from, to) - centre * all) / sxx
      if (squares(from, to) - (all * all) / n - slope * slope * sxx > scatter) continue
      wide++
      return middle + all / n + slope * (i - centre)
    }
    const reach = Math.min(atLeast, i, y.length - 1 - i)
    const [from, to] = [i - reach, i + reach + 1]
    return gaps(from, to) > 0 ? v : middle + sum(from, to) / (to - from)
  })
  return { y: calmer, share: wide / y.length }
}

type SumOver = (from: number, to: number) => number

/** Sums over any rows of a channel less its mean: of itself, its squares, itself times its row; and of its gaps. */
function sumsOf(y: Float64Array): Record<'sum' | 'squares' | 'rising' | 'gaps', SumOver> & { middle: number } {
  let [total, read] = [0, 0]
  for (const v of y)
    if (!Number.isNaN(v)) {
      total += v
      read++
    }
  const middle = read > 0 ? total / read : 0
  const over = (of: (v: number, i: number) => number): SumOver => {
    const sums = new Float64Array(y.length + 1)
    for (let i = 0; i < y.length; i++) sums[i + 1] = sums[i]! + (Number.isNaN(y[i]!) ? 0 : of(y[i]! - middle, i))
    return (from, to) => sums[to]! - sums[from]!
  }
  const readOf = over(() => 1)
  return {
    sum: over(v => v),
    squares: over(v => v * v),
    rising: over((v, i) => v * i),
    gaps: (from, to) => to - from - readOf(from, to),
    middle,
  }
}

/** A channel with more noise of its own kind on it, `times` as much as it has. */
export function withNoise(y: Float64Array, { sigma, phi }: Noise, times: number, random: SeededRandom): Float64Array {
  if (sigma === 0) return y
  const fresh = Math.sqrt(1 - phi * phi)
  const louder = new Float64Array(y.length)
  let e = random.normal()
  for (let i = 0; i < y.length; i++) {
    louder[i] = y[i]! + times * sigma * e
    e = phi * e + fresh * random.normal()
  }
  return louder
}

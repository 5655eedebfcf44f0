import normalQuantile from '@stdlib/stats-base-dists-normal-quantile'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { HypometError } from '../error'
import { SeededRandom } from '../statistics/random'
import type { Correlation, Input } from './propagate'

export interface MonteCarloOptions {
  draws?: number
  seed?: number
  correlations?: Correlation[]
  /** Called now and then with the share that is done; returning false stops. */
  progress?: (share: number) => boolean
}

export interface MonteCarlo {
  mean: number
  u: number
  /** Shortest interval that holds 95 % of the draws. */
  interval: [number, number]
  /** Draws in equal classes over the middle 99.8 %. */
  histogram: { from: number; to: number; counts: number[] }
  draws: number
}

const CHUNK = 4096

/**
 * Propagation of distributions: normal inputs (correlated by Cholesky; Student’s t where degrees of freedom are given),
 * each draw through the model, shortest 95 %
 * interval. The same seed gives the same digits.
 *
 * @throws HypometError `cancelled` when stopped; `data-range` when a draw has no value; `setting-range` for
 * correlations
 *         that cannot be
 * @source JCGM 101:2008, 5.9, 6.4.9 and 7
 */
export function monteCarlo(
  model: (x: ArrayLike<number>) => number,
  inputs: Input[],
  o: MonteCarloOptions = {},
): MonteCarlo {
  const { draws = 100_000, seed = 1, correlations = [], progress } = o
  const random = new SeededRandom(seed)
  const factor = correlations.length > 0 ? cholesky(inputs, correlations) : null
  const n = inputs.length
  const [x, z, results] = [new Float64Array(n), new Float64Array(n), new Float64Array(draws)]
  for (let d = 0; d < draws; d++) {
    for (let i = 0; i < n; i++) z[i] = random.normal()
    for (let i = 0; i < n; i++) {
      const { value, u, dof } = inputs[i]!
      const standard = factor ? row(factor, z, i) : z[i]!
      x[i] = value + u * (Number.isFinite(dof) ? standard * Math.sqrt(dof / random.chiSquare(dof)) : standard)
    }
    results[d] = model(x)
    if (d % CHUNK === 0 && progress && !progress(d / draws))
      throw new HypometError('cancelled', 'The calculation was stopped.')
  }
  return { ...summary(results), draws }
}

const row = (L: Float64Array[], z: Float64Array, i: number): number => {
  let sum = 0
  for (let j = 0; j <= i; j++) sum += L[i]![j]! * z[j]!
  return sum
}

function cholesky(inputs: Input[], correlations: Correlation[]): Float64Array[] {
  const n = inputs.length
  const R = inputs.map((_, i) => Float64Array.from({ length: n }, (_, j) => (i === j ? 1 : 0)))
  const index = (name: string) => inputs.findIndex(i => i.name === name)
  for (const { a, b, r } of correlations) R[index(a)]![index(b)] = R[index(b)]![index(a)] = r
  const L = inputs.map(() => new Float64Array(n))
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      let sum = R[i]![j]!
      for (let k = 0; k < j; k++) sum -= L[i]![k]! * L[j]![k]!
      if (i === j && sum < -1e-12)
        throw new HypometError('setting-range', 'These correlations cannot all hold at once.', {
          path: 'settings.correlations',
        })
      L[i]![j] = i === j ? Math.sqrt(Math.max(0, sum)) : L[j]![j] === 0 ? 0 : sum / L[j]![j]!
    }
  return L
}

function summary(results: Float64Array): Omit<MonteCarlo, 'draws'> {
  const n = results.length
  let sum = 0
  for (const v of results) sum += v
  const mean = sum / n
  if (!Number.isFinite(mean))
    throw new HypometError('data-range', 'For some draws the model has no value.', { path: 'settings.expression' })
  let squares = 0
  for (const v of results) squares += (v - mean) ** 2
  results.sort()
  const held = Math.round(0.95 * n)
  let best = 0
  for (let i = 1; i + held < n; i++)
    if (results[i + held]! - results[i]! < results[best + held]! - results[best]!) best = i
  return {
    mean,
    u: Math.sqrt(squares / (n - 1)),
    interval: [results[best]!, results[Math.min(n - 1, best + held)]!],
    histogram: histogramOf(results),
  }
}

const CLASSES = 60

function histogramOf(sorted: Float64Array): MonteCarlo['histogram'] {
  const [from, to] = [sorted[Math.floor(0.001 * (sorted.length - 1))]!, sorted[Math.ceil(0.999 * (sorted.length - 1))]!]
  const counts = Array.from({ length: CLASSES }, () => 0)
  for (const v of sorted)
    if (v >= from && v <= to) counts[Math.min(CLASSES - 1, Math.floor(((v - from) / (to - from || 1)) * CLASSES))]!++
  return { from, to, counts }
}

export interface Agreement {
  /** Half a unit in the second significant digit of u. */
  tolerance: number
  /** How far apart the ends of the two 95 % intervals stand. */
  low: number
  high: number
  /** Both ends agree to the tolerance: the propagation of uncertainties may be used here. */
  agrees: boolean
}

/**
 * Whether first-order propagation is good enough for this model: its 95 % interval against that of the draws.
 *
 * @source JCGM 101:2008, 8.1
 */
export function compareWithPropagation(drawn: MonteCarlo, p: { value: number; u: number; dof: number }): Agreement {
  const k = Number.isFinite(p.dof) ? tQuantile(0.975, p.dof) : normalQuantile(0.975, 0, 1)
  const tolerance = p.u > 0 ? 0.5 * 10 ** (Math.floor(Math.log10(p.u)) - 1) : 0
  const [low, high] = [Math.abs(p.value - k * p.u - drawn.interval[0]), Math.abs(p.value + k * p.u - drawn.interval[1])]
  return { tolerance, low, high, agrees: low <= tolerance && high <= tolerance }
}

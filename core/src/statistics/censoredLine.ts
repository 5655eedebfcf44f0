import { HypometError } from '../error'
import { CENSORED_NORMAL, type Observation } from './censoredFit'
import { leastSquares } from './leastSquares'

export interface CensoredLine {
  intercept: number
  slope: number
  sigma: number
  /** Of the line at x, from the observed information in (intercept, slope, ln sigma). */
  standardErrorAt(x: number): number
}

/** Beyond these a maximum of the likelihood is none. */
const LOG_SIGMA = [Math.log(1e-6), Math.log(1e2)] as const
const STEEPEST = 1e3

/**
 * A line with normal scatter by maximum likelihood, lower bounds taken as such. Newton in (intercept, slope, ln sigma),
 * steps halved until the likelihood rises.
 *
 * @throws HypometError `data-range` when the points do not fix a line and its scatter
 * @source Lawless, Statistical Models and Methods for Lifetime Data, ch. 6
 */
export function fitCensoredLine(observations: readonly (Observation & { x: number })[]): CensoredLine {
  if (new Set(observations.map(o => o.x)).size < 2)
    throw new HypometError('data-range', 'All points lie at one x: they fix no line.')
  const start = leastSquares(
    observations.map(o => [1, o.x]),
    observations.map(o => o.value),
  )
  let at = [
    start.coefficients[0]!,
    start.coefficients[1]!,
    0.5 * Math.log(Math.max(1e-4, start.rss / observations.length)),
  ] as [number, number, number]
  let now = surface(observations, at)
  for (let i = 0; i < 200; i++) {
    const step = newton(now)
    let scale = 1
    for (; scale > 1e-10; scale /= 2) {
      const trial = at.map((v, k) => v + scale * step[k]!) as [number, number, number]
      const next = surface(observations, trial)
      if (next.value < now.value - 1e-13 * Math.abs(now.value)) continue
      at = trial
      now = next
      break
    }
    // Without scatter the likelihood rises for ever, the narrower the better.
    if (at[2] < LOG_SIGMA[0] || at[2] > LOG_SIGMA[1] || Math.abs(at[1]) > STEEPEST) break
    if (scale <= 1e-10 || step.every((s, k) => Math.abs(s * scale) <= 1e-12 * Math.max(1, Math.abs(at[k]!)))) break
  }
  const covariance = inverse(now.information)
  const isInside = at[2] > LOG_SIGMA[0] && at[2] < LOG_SIGMA[1] && Math.abs(at[1]) < STEEPEST
  if (!covariance || !isInside)
    throw new HypometError('data-range', 'The points do not fix a line and its scatter: the likelihood has no maximum.')
  return {
    intercept: at[0],
    slope: at[1],
    sigma: Math.exp(at[2]),
    standardErrorAt: x => Math.sqrt(covariance[0]![0]! + 2 * x * covariance[0]![1]! + x * x * covariance[1]![1]!),
  }
}

interface Surface {
  value: number
  gradient: number[]
  /** Negative second derivatives. */
  information: number[][]
}

function surface(
  observations: readonly (Observation & { x: number })[],
  [a, b, log]: [number, number, number],
): Surface {
  const sigma = Math.exp(log)
  let value = 0
  const gradient = [0, 0, 0]
  const information = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ]
  for (const { x, value: y, isBound } of observations) {
    const z = (y - a - b * x) / sigma
    const [v, d1, d2] = isBound ? CENSORED_NORMAL.bound(z) : CENSORED_NORMAL.failure(z)
    value += v - (isBound ? 0 : log)
    // z falls with the line by 1/σ, and with ln σ by z.
    const dz = [-1 / sigma, -x / sigma, -z]
    const second = (i: number, j: number) =>
      i === 2 && j === 2 ? z : i === 2 || j === 2 ? (i === 1 || j === 1 ? x : 1) / sigma : 0
    for (let i = 0; i < 3; i++) {
      gradient[i]! += d1 * dz[i]!
      for (let j = 0; j < 3; j++) information[i]![j]! -= d2 * dz[i]! * dz[j]! + d1 * second(i, j)
    }
    if (!isBound) gradient[2]! -= 1
  }
  return { value, gradient, information }
}

/** Newton's step; where the surface is not concave, the diagonal is raised until it is. None where that never is. */
function newton({ gradient, information }: Surface): number[] {
  for (let lift = 0; lift < 1e12; lift = lift === 0 ? 1e-6 : lift * 10) {
    const raised = information.map((row, i) => row.map((v, j) => (i === j ? v + lift * (Math.abs(v) + 1) : v)))
    const inverted = inverse(raised)
    if (!inverted || !(raised[0]![0]! > 0) || !inverted.every((row, i) => row[i]! > 0)) continue
    const step = inverted.map(row => row.reduce((s, v, j) => s + v * gradient[j]!, 0))
    // The scatter changes by no more than a factor of e at a time.
    const shorter = Math.min(1, 1 / Math.abs(step[2]!))
    return step.map(s => s * shorter)
  }
  return [0, 0, 0]
}

/** Of a symmetric 3 × 3 matrix; null where there is none. */
function inverse(m: readonly (readonly number[])[]): number[][] | null {
  const c = (i: number, j: number) =>
    m[(i + 1) % 3]![(j + 1) % 3]! * m[(i + 2) % 3]![(j + 2) % 3]! -
    m[(i + 1) % 3]![(j + 2) % 3]! * m[(i + 2) % 3]![(j + 1) % 3]!
  const determinant = m[0]![0]! * c(0, 0) + m[0]![1]! * c(0, 1) + m[0]![2]! * c(0, 2)
  return determinant !== 0 && Number.isFinite(determinant)
    ? [0, 1, 2].map(i => [0, 1, 2].map(j => c(j, i) / determinant))
    : null
}

import { HypometError } from '../error'
import { leastSquaresOf } from './leastSquares'

export interface Parameter {
  name: string
  start: number
  lower?: number | undefined
  upper?: number | undefined
}

export interface LeastSquaresProblem {
  parameters: Parameter[]
  /** Residuals, measured minus model, for parameter values. */
  residuals(p: Float64Array): Float64Array
  /** Derivatives of the model by each parameter, one array a parameter. */
  slopes(p: Float64Array): Float64Array[]
  /** It begins close to its answer, or from several places: one descent is enough. */
  isNear?: true
}

export interface LeastSquaresFit {
  values: Float64Array
  /** Standard errors; NaN for a parameter at its bound. */
  errors: Float64Array
  correlation: Float64Array[]
  rss: number
  residualSd: number
  atBound: boolean[]
  iterations: number
}

/**
 * A bold first step can land where the model is flat and stay there; a cautious one can creep into a far valley: each
 * is tried.
 */
const NEAR = { damping: 1, most: 1000 }
const ATTEMPTS = [{ damping: 1e3, most: 10_000 }, NEAR, { damping: 1e-3, most: 1000 }]

/** A step that is to lower the sum of squares by less than this share of it, and does, is the last. */
const AT_LEAST = 1e-14

/**
 * Nonlinear least squares by Levenberg and Marquardt: steps scaled by the columns' largest norms so far, damped by
 * gain; bounds by projection, with parameters that press against them held.
 *
 * @throws HypometError `singular` when the data do not determine the parameters
 * @source Moré (1978), “The Levenberg–Marquardt algorithm: implementation and theory”
 */
export function fitNonlinear(problem: LeastSquaresProblem): LeastSquaresFit {
  const descents = (problem.isNear ? [NEAR] : ATTEMPTS).map(a => descend(problem, a))
  const best = descents.reduce((a, b) => (b.rss < a.rss * (1 - 1e-9) ? b : a))
  const p = polished(problem, best.p)
  return described(problem, p, problem.residuals(p), best.iterations)
}

function descend(
  problem: LeastSquaresProblem,
  { damping, most }: (typeof ATTEMPTS)[number],
): { p: Float64Array; rss: number; iterations: number } {
  const { parameters } = problem
  let p: Float64Array = Float64Array.from(parameters, q => clamp(q.start, q))
  let r = problem.residuals(p)
  let rss = sumOfSquares(r)
  if (!Number.isFinite(rss))
    throw new HypometError('data-range', 'The model has no value at the start; begin nearer to the answer.')
  let factor = 2
  const scale = new Float64Array(parameters.length)
  let iterations = 0
  let J = problem.slopes(p)
  for (; iterations < most; iterations++) {
    J.forEach((column, j) => {
      scale[j] = Math.max(scale[j]!, Math.sqrt(sumOfSquares(column)), 1e-300)
    })
    const free = parameters.map((q, j) => !pressesOnBound(p[j]!, q, dot(J[j]!, r)))
    if (!free.some(Boolean)) break
    const step = dampedStep(J, r, scale, damping, free)
    const trial = p.map((v, j) => clamp(v + step[j]!, parameters[j]!))
    const moved = trial.map((v, j) => v - p[j]!)
    const next = problem.residuals(trial)
    const gained = rss - sumOfSquares(next)
    const hoped = predictedGain(J, r, moved)
    const isBetter = gained > 0 && Number.isFinite(gained)
    if (isBetter) {
      damping *= Math.max(1 / 3, 1 - (2 * (gained / hoped) - 1) ** 3)
      factor = 2
      p = trial
      r = next
      rss = sumOfSquares(r)
    } else {
      damping *= factor
      factor *= 2
    }
    if (isBetter) J = problem.slopes(p)
    // What is left to gain is rounding: plain steps tell the last digits.
    if (gained >= 0 && gained <= AT_LEAST * rss && hoped <= AT_LEAST * rss) break
    const small = moved.every((m, j) => Math.abs(m) <= 1e-14 * (Math.abs(p[j]!) + 1e-14))
    if ((small && damping < 1) || damping > 1e40 || rss === 0) break
    if (small && gained <= 0 && damping > 1e6) break
  }
  return { p, rss, iterations }
}

/**
 * Plain Gauss–Newton steps while they shrink: near the minimum the sum of squares is flat to rounding, and only the
 * steps themselves still tell the last digits.
 */
function polished(problem: LeastSquaresProblem, start: Float64Array): Float64Array {
  let p: Float64Array = start
  let last = Infinity
  const rssAtStart = sumOfSquares(problem.residuals(p))
  for (let i = 0; i < 200; i++) {
    const r = problem.residuals(p)
    const J = problem.slopes(p)
    const free = problem.parameters.map((q, j) => !pressesOnBound(p[j]!, q, dot(J[j]!, r)))
    if (!free.some(Boolean)) return p
    const scale = Float64Array.from(J, column => Math.sqrt(sumOfSquares(column)) || 1)
    const step = dampedStep(J, r, scale, 0, free)
    const size = step.reduce((s, v, j) => Math.max(s, Math.abs(v) / (Math.abs(p[j]!) + 1e-300)), 0)
    const next = p.map((v, j) => clamp(v + step[j]!, problem.parameters[j]!))
    if (!(size < 0.95 * last) || !(sumOfSquares(problem.residuals(next)) <= rssAtStart * (1 + 1e-10))) return p
    p = next
    last = size
  }
  return p
}

const clamp = (v: number, { lower = -Infinity, upper = Infinity }: Parameter): number =>
  Math.min(upper, Math.max(lower, v))
function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!
  return sum
}
const sumOfSquares = (v: Float64Array): number => dot(v, v)

/** At a bound, and the descent points out of it. `pull` is the slope of the fit towards larger values. */
const pressesOnBound = (v: number, { lower, upper }: Parameter, pull: number): boolean =>
  (lower !== undefined && v <= lower && pull <= 0) || (upper !== undefined && v >= upper && pull >= 0)

/** Solves the damped problem as one of plain least squares, with a row more for each free parameter. */
function dampedStep(
  J: Float64Array[],
  r: Float64Array,
  scale: Float64Array,
  damping: number,
  free: boolean[],
): Float64Array {
  const columns = J.flatMap((column, j) => (free[j] ? [{ column, j }] : []))
  const n = r.length
  const width = n + columns.length
  const scaled = columns.map(({ column, j }, k) => {
    const whole = new Float64Array(width)
    for (let i = 0; i < n; i++) whole[i] = column[i]! / scale[j]!
    whole[n + k] = Math.sqrt(damping)
    return whole
  })
  const right = new Float64Array(width)
  right.set(r)
  const { coefficients } = leastSquaresOf(scaled, right)
  const step = new Float64Array(J.length)
  columns.forEach(({ j }, k) => {
    step[j] = coefficients[k]! / scale[j]!
  })
  return step
}

/** What the linear model promises for a move. */
function predictedGain(J: Float64Array[], r: Float64Array, moved: Float64Array): number {
  let gain = 0
  for (let i = 0; i < r.length; i++) {
    let change = 0
    for (let j = 0; j < J.length; j++) change += J[j]![i]! * moved[j]!
    gain += r[i]! ** 2 - (r[i]! - change) ** 2
  }
  return gain
}

function described(
  problem: LeastSquaresProblem,
  p: Float64Array,
  r: Float64Array,
  iterations: number,
): LeastSquaresFit {
  const n = r.length
  const k = p.length
  const rss = sumOfSquares(r)
  const J = problem.slopes(p)
  const norms = J.map(column => Math.sqrt(sumOfSquares(column)) || 1)
  const { inverse } = leastSquaresOf(
    J.map((column, j) => column.map(v => v / norms[j]!)),
    Float64Array.from(r),
  )
  const residualSd = n > k ? Math.sqrt(rss / (n - k)) : NaN
  const atBound = problem.parameters.map((q, j) => p[j] === q.lower || p[j] === q.upper)
  return {
    values: p,
    rss,
    residualSd,
    atBound,
    iterations,
    errors: p.map((_, j) => (atBound[j] ? NaN : (residualSd * Math.sqrt(inverse[j]![j]!)) / norms[j]!)),
    correlation: inverse.map((row, i) => row.map((v, j) => v / Math.sqrt(inverse[i]![i]! * inverse[j]![j]!))),
  }
}

import { HypometError } from '../error'

export interface Approach {
  /** Value it tends to, and value at the first sample of time. */
  steady: number
  start: number
  timeConstant: number
  /** Standard errors of the three, as if samples scattered alone. */
  errors: { steady: number; start: number; timeConstant: number }
  residualSd: number
}

/** Where the search for a time constant begins and ends, in spans of the record. */
const [SHORTEST, LONGEST] = [1e-3, 1e3]
const TRIALS = 60
const ENOUGH = 2000
const MOST_STEPS = 60
/** Share by which a step moves nothing any more. */
const SETTLED = 1e-12

/**
 * Least squares of y = T∞ − (T∞ − T₀)·e^(−(t − t₁)/τ). The two temperatures are linear once τ is chosen: trial time
 * constants first, then Gauss–Newton on all three from the best.
 *
 * @param t  rising, s; the first is t₁
 * @returns errors that are not finite where nothing bends
 * @throws HypometError `data-range` below four samples
 * @source Golub & Pereyra (1973), separable least squares
 * @example exponentialApproach([0, 1, 2, 3], [0, .6321, .8647, .9502]) // steady 1, timeConstant 1
 */
export function exponentialApproach(t: Float64Array, y: Float64Array): Approach {
  const n = t.length
  if (n < 4) throw new HypometError('data-range', 'An approach needs at least four samples.')
  const x = new Float64Array(n)
  for (let i = 0; i < n; i++) x[i] = t[i]! - t[0]!
  const span = x[n - 1]!
  // The search needs no more than its shape; the fit itself takes every sample.
  const stride = Math.max(1, Math.floor(n / ENOUGH))
  const fewOf = (v: Float64Array) => Float64Array.from({ length: Math.ceil(n / stride) }, (_, i) => v[i * stride]!)
  const few = { x: fewOf(x), y: fewOf(y) }
  let best = { tau: NaN, rss: Infinity, steady: NaN, start: NaN }
  for (let i = 0; i <= TRIALS; i++) {
    const tau = span * SHORTEST * (LONGEST / SHORTEST) ** (i / TRIALS)
    const found = linearPart(few.x, few.y, tau)
    if (found.rss < best.rss) best = { tau, ...found }
  }
  if (!Number.isFinite(best.rss)) throw new HypometError('data-range', 'No curve can be fitted to these readings.')
  const near = refined(few.x, few.y, [best.steady, best.start, best.tau])
  return stride === 1 ? near : refined(x, y, [near.steady, near.start, near.timeConstant])
}

/** Between exponentials that are worked out anew, so many follow from the one before at even intervals. */
const FOLLOWING = 64
/** What an interval may differ by to count as even. */
const EVEN = 1e-9

/**
 * e^(−(x − x₀)/τ) at rising places; of even ones by multiplication, good to fourteen digits.
 *
 * @param e  as long as x, to be filled again
 */
export function decay(x: Float64Array, tau: number, e = new Float64Array(x.length)): Float64Array<ArrayBuffer> {
  const interval = x.length > 1 ? x[1]! - x[0]! : 0
  const [least, most] = [interval * (1 - EVEN), interval * (1 + EVEN)]
  const q = Math.exp(-interval / tau)
  for (let i = 0; i < x.length; i++) {
    const step = i % FOLLOWING === 0 ? 0 : x[i]! - x[i - 1]!
    e[i] = step >= least && step <= most && step > 0 ? e[i - 1]! * q : Math.exp(-(x[i]! - x[0]!) / tau)
  }
  return e
}

/** T∞ and T₀ for a time constant: y = T∞ + (T₀ − T∞)·e, a line over e. */
function linearPart(x: Float64Array, y: Float64Array, tau: number): { steady: number; start: number; rss: number } {
  const n = x.length
  let [me, my] = [0, 0]
  const e = x.map(v => Math.exp(-v / tau))
  for (let i = 0; i < n; i++) {
    me += e[i]!
    my += y[i]!
  }
  me /= n
  my /= n
  let [see, sey, syy] = [0, 0, 0]
  for (let i = 0; i < n; i++) {
    const [de, dy] = [e[i]! - me, y[i]! - my]
    see += de * de
    sey += de * dy
    syy += dy * dy
  }
  const slope = sey / see
  const steady = my - slope * me
  return { steady, start: steady + slope, rss: syy - slope * sey }
}

function refined(x: Float64Array, y: Float64Array, from: [number, number, number]): Approach {
  let p = from
  const fall = new Float64Array(x.length)
  let state = normalEquations(x, y, p, fall)
  for (let k = 0; k < MOST_STEPS; k++) {
    const step = solve3(state.A, state.b)
    // Nothing bends: the time constant is open, and so are the errors.
    if (!step.every(Number.isFinite)) break
    const found = shortened(x, y, p, step, state, fall)
    if (!found) break
    const { next, tried } = found
    const moved = Math.max(...next.map((v, i) => Math.abs(v - p[i]!) / (Math.abs(v) + 1e-300)))
    p = next
    state = tried
    if (moved < SETTLED) break
  }
  const sd = x.length > 3 ? Math.sqrt(state.rss / (x.length - 3)) : NaN
  const error = (i: number) =>
    sd * Math.sqrt(solve3(state.A, [0, 1, 2].map(j => (j === i ? 1 : 0)) as [number, number, number])[i]!)
  return {
    steady: p[0],
    start: p[1],
    timeConstant: p[2],
    residualSd: sd,
    errors: { steady: error(0), start: error(1), timeConstant: error(2) },
  }
}

type Three = [number, number, number]
type State = ReturnType<typeof normalEquations>

/** The step, or half of it and again, that does not lead away; null where none is left. */
function shortened(
  x: Float64Array,
  y: Float64Array,
  p: Three,
  step: Three,
  state: State,
  fall: Float64Array<ArrayBuffer>,
): { next: Three; tried: State } | null {
  for (let scale = 1; scale > 1e-6; scale /= 2) {
    const next = p.map((v, i) => v + scale * step[i]!) as Three
    const tried = next[2] > 0 ? normalEquations(x, y, next, fall) : null
    if (tried && tried.rss <= state.rss * (1 + 1e-12)) return { next, tried }
  }
  return null
}

function normalEquations(
  x: Float64Array,
  y: Float64Array,
  [steady, start, tau]: Three,
  fall: Float64Array<ArrayBuffer>,
): { A: [Three, Three, Three]; b: Three; rss: number } {
  decay(x, tau, fall)
  const bends = (start - steady) / (tau * tau)
  let [aa, ab, ac, bb, bc, cc, ra, rb, rc, rss] = [0, 0, 0, 0, 0, 0, 0, 0, 0, 0]
  for (let i = 0; i < x.length; i++) {
    const e = fall[i]!
    const r = y[i]! - steady - (start - steady) * e
    const da = 1 - e
    const dc = bends * e * x[i]!
    aa += da * da
    ab += da * e
    ac += da * dc
    bb += e * e
    bc += e * dc
    cc += dc * dc
    ra += da * r
    rb += e * r
    rc += dc * r
    rss += r * r
  }
  return {
    A: [
      [aa, ab, ac],
      [ab, bb, bc],
      [ac, bc, cc],
    ],
    b: [ra, rb, rc],
    rss,
  }
}

/** A symmetric system of three, scaled by its diagonal, by Cramer's rule. */
function solve3(A: [Three, Three, Three], b: Three): Three {
  const d = [0, 1, 2].map(i => Math.sqrt(A[i]![i]!)) as Three
  const M = A.map((row, i) => row.map((v, j) => v / (d[i]! * d[j]!))) as [Three, Three, Three]
  const c = b.map((v, i) => v / d[i]!) as Three
  const det = (m: [Three, Three, Three]) =>
    m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) -
    m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) +
    m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0])
  const whole = det(M)
  return [0, 1, 2].map(
    k => det(M.map((row, i) => row.map((v, j) => (j === k ? c[i]! : v))) as [Three, Three, Three]) / whole / d[k]!,
  ) as Three
}

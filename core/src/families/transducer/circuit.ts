import { isHypometError } from '../../error'
import { leastSquares } from '../../statistics/leastSquares'
import { fitNonlinear } from '../../statistics/levenbergMarquardt'

/** A resonator's equivalent circuit: R1, L1, C1 in a row, a lossy C0 beside them. SI. */
export interface Circuit {
  R1: number
  L1: number
  C1: number
  C0: number
  /** tan δ of C0; none where it is not given. */
  lossTangent?: number | undefined
}

/**
 * Admittance jωC₀(1 − j·tan δ) + 1/(R₁ + jωL₁ + 1/(jωC₁)), S.
 *
 * @param w  rad/s
 * @source Van Dyke (1928); IEEE Std 177
 */
export function admittance({ R1, L1, C1, C0, lossTangent = 0 }: Circuit, w: number): { re: number; im: number } {
  const x = w * L1 - 1 / (w * C1)
  const size = R1 * R1 + x * x
  return { re: R1 / size + w * C0 * lossTangent, im: w * C0 - x / size }
}

/** What a fitted circuit says, each with its standard error. */
export type CircuitValue =
  'seriesFrequency' | 'parallelFrequency' | 'coupling' | 'qualityFactor' | 'R1' | 'L1' | 'C1' | 'C0' | 'lossTangent'

export interface FittedCircuit {
  circuit: Required<Circuit>
  values: Record<CircuitValue, { value: number; u: number }>
  /** √(Σ|ΔY/Y|²/(2n − 5)). */
  residual: number
}

/** Quality factors that a search begins from, and how many of them are gone on with. */
const QUALITIES = [10, 20, 50, 100, 200, 500, 1000, 2000]
const FOLLOWED = 3

/** Parameters of the fit: logarithms of fs, C1/C0, Q and C0, in which they hardly depend on one another; and tan δ. */
type Parameters = [fs: number, ratio: number, quality: number, C0: number, lossTangent: number]
const NAMES = ['fs', 'ratio', 'quality', 'C0', 'lossTangent'] as const

/**
 * The circuit that fits complex admittances best, each row's difference counted of its own size.
 *
 * @param frequency  Hz
 * @param G, B  conductance and susceptance, S
 * @param fs  where the conductance is largest, Hz
 * @returns null where no resonance with positive elements fits
 */
export function fitCircuit(
  frequency: Float64Array,
  G: Float64Array,
  B: Float64Array,
  fs: number,
): FittedCircuit | null {
  const size = G.map((g, i) => g * g + B[i]! ** 2)
  const problem = problemOf(frequency, G, B, size)
  const begun = QUALITIES.flatMap(Q => {
    const start = startOf(frequency, G, B, size, fs, Q)
    return start ? [{ start, rss: sumOfSquares(problem.residuals(start)) }] : []
  })
  const fits = begun
    .sort((a, b) => a.rss - b.rss)
    .slice(0, FOLLOWED)
    .flatMap(({ start }) => {
      try {
        return [
          fitNonlinear({ ...problem, isNear: true, parameters: NAMES.map((name, i) => ({ name, start: start[i]! })) }),
        ]
      } catch (e) {
        if (isHypometError(e)) return []
        throw e
      }
    })
  if (fits.length === 0) return null
  const best = fits.reduce((a, b) => (b.rss < a.rss ? b : a))
  const covariance = best.correlation.map((row, i) => Array.from(row, (r, j) => r * best.errors[i]! * best.errors[j]!))
  return described(best.values, covariance, best.residualSd)
}

const sumOfSquares = (r: Float64Array): number => r.reduce((sum, v) => sum + v * v, 0)

/** C0, tan δ and C1/C0 are linear once the resonance and its quality are chosen. */
function startOf(
  frequency: Float64Array,
  G: Float64Array,
  B: Float64Array,
  size: Float64Array,
  fs: number,
  Q: number,
): Float64Array | null {
  const rows: number[][] = []
  // Of itself: Re and Im of model·conj(Y)/|Y|², which is to be 1 + 0j.
  const add = (i: number, re: number[], im: number[]) => {
    rows.push(re.map((v, k) => (v * G[i]! + im[k]! * B[i]!) / size[i]!))
    rows.push(re.map((v, k) => (im[k]! * G[i]! - v * B[i]!) / size[i]!))
  }
  for (let i = 0; i < frequency.length; i++) {
    const w = 2 * Math.PI * frequency[i]!
    const { re, im } = motional(frequency[i]! / fs, Q)
    add(i, [0, w, w * re], [w, 0, w * im])
  }
  try {
    const wanted = Float64Array.from(rows, (_, i) => (i % 2 === 0 ? 1 : 0))
    const { coefficients } = leastSquares(rows, wanted)
    const [C0, lossy, C1] = [coefficients[0]!, coefficients[1]!, coefficients[2]!]
    if (!(C0 > 0 && C1 > 0)) return null
    return Float64Array.of(Math.log(fs), Math.log(C1 / C0), Math.log(Q), Math.log(C0), lossy / C0)
  } catch (e) {
    if (isHypometError(e)) return null
    throw e
  }
}

/** The motional branch over ωC1: j/(1 − x² + jx/Q). */
function motional(x: number, Q: number): { re: number; im: number } {
  const [a, b] = [1 - x * x, x / Q]
  const size = a * a + b * b
  return { re: b / size, im: a / size }
}

function problemOf(frequency: Float64Array, G: Float64Array, B: Float64Array, size: Float64Array) {
  const n = frequency.length
  /** A complex row as a share of what was measured there: real parts, then imaginary ones. */
  const put = (column: Float64Array, i: number, re: number, im: number) => {
    column[i] = (re * G[i]! + im * B[i]!) / size[i]!
    column[n + i] = (im * G[i]! - re * B[i]!) / size[i]!
  }
  return {
    residuals(p: Float64Array): Float64Array {
      const [fs, ratio, Q, C0] = [Math.exp(p[0]!), Math.exp(p[1]!), Math.exp(p[2]!), Math.exp(p[3]!)]
      const r = new Float64Array(2 * n)
      for (let i = 0; i < n; i++) {
        const w = 2 * Math.PI * frequency[i]!
        const m = motional(frequency[i]! / fs, Q)
        put(r, i, G[i]! - w * C0 * (p[4]! + ratio * m.re), B[i]! - w * C0 * (1 + ratio * m.im))
      }
      return r
    },
    slopes(p: Float64Array): Float64Array[] {
      const [fs, ratio, Q, C0] = [Math.exp(p[0]!), Math.exp(p[1]!), Math.exp(p[2]!), Math.exp(p[3]!)]
      const columns = NAMES.map(() => new Float64Array(2 * n))
      for (let i = 0; i < n; i++) {
        const x = frequency[i]! / fs
        const wC = 2 * Math.PI * frequency[i]! * C0
        const { re, im } = motional(x, Q)
        // j/D differentiated: −j/D²·dD, and 1/D = im − j·re.
        const square = { re: im * im - re * re, im: -2 * im * re }
        const by = (dRe: number, dIm: number) => {
          const q = { re: square.re * dRe - square.im * dIm, im: square.re * dIm + square.im * dRe }
          return { re: q.im, im: -q.re }
        }
        const [byFs, byQ] = [by(2 * x * x, -x / Q), by(0, -x / Q)]
        put(columns[0]!, i, wC * ratio * byFs.re, wC * ratio * byFs.im)
        put(columns[1]!, i, wC * ratio * re, wC * ratio * im)
        put(columns[2]!, i, wC * ratio * byQ.re, wC * ratio * byQ.im)
        put(columns[3]!, i, wC * (p[4]! + ratio * re), wC * (1 + ratio * im))
        put(columns[4]!, i, wC, 0)
      }
      return columns
    },
  }
}

/** Elements and resonances of the fitted parameters, with first-order standard errors of each. */
function described(p: Float64Array, covariance: number[][], residual: number): FittedCircuit {
  const [fs, ratio, Q, C0] = [Math.exp(p[0]!), Math.exp(p[1]!), Math.exp(p[2]!), Math.exp(p[3]!)]
  const ws = 2 * Math.PI * fs
  const C1 = ratio * C0
  const L1 = 1 / (ws * ws * C1)
  const R1 = 1 / (Q * ws * C1)
  const lossTangent = p[4]!
  const u = (by: Parameters) => {
    let sum = 0
    by.forEach((a, i) => by.forEach((b, j) => (sum += a * b * covariance[i]![j]!)))
    return Math.sqrt(Math.max(0, sum))
  }
  const part = ratio / (1 + ratio) / 2
  const fp = fs * Math.sqrt(1 + ratio)
  const coupling = Math.sqrt(ratio / (1 + ratio))
  const of = (value: number, by: Parameters) => ({ value, u: Math.abs(value) * u(by) })
  return {
    circuit: { R1, L1, C1, C0, lossTangent },
    residual,
    values: {
      seriesFrequency: of(fs, [1, 0, 0, 0, 0]),
      parallelFrequency: of(fp, [1, part, 0, 0, 0]),
      coupling: of(coupling, [0, 1 / (1 + ratio) / 2, 0, 0, 0]),
      qualityFactor: of(Q, [0, 0, 1, 0, 0]),
      R1: of(R1, [-1, -1, -1, -1, 0]),
      L1: of(L1, [-2, -1, 0, -1, 0]),
      C1: of(C1, [0, 1, 0, 1, 0]),
      C0: of(C0, [0, 0, 0, 1, 0]),
      lossTangent: { value: lossTangent, u: u([0, 0, 0, 0, 1]) },
    },
  }
}

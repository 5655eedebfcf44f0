import { fitNonlinear } from '../../statistics/levenbergMarquardt'

/** A resonator's equivalent circuit: R1, L1, C1 in a row, C0 beside them. SI. */
export interface Circuit {
  R1: number
  L1: number
  C1: number
  C0: number
}

export interface FittedCircuit extends Circuit {
  /** Standard errors; NaN where the fit leaves them open. */
  errors: Circuit
}

const KEYS = ['R1', 'L1', 'C1', 'C0'] as const

/**
 * Admittance jωC₀ + 1/(R₁ + jωL₁ + 1/(jωC₁)), S.
 *
 * @param w  rad/s
 * @source Van Dyke (1928); IEEE Std 177
 */
export function admittance({ R1, L1, C1, C0 }: Circuit, w: number): { re: number; im: number } {
  const x = w * L1 - 1 / (w * C1)
  const size = R1 * R1 + x * x
  return { re: R1 / size, im: w * C0 - x / size }
}

/** Measured less a circuit's admittance: conductances, then susceptances. */
export function misfit(c: Circuit, w: Float64Array, G: Float64Array, B: Float64Array): Float64Array {
  const n = w.length
  const r = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    const y = admittance(c, w[i]!)
    r[i] = G[i]! - y.re
    r[n + i] = B[i]! - y.im
  }
  return r
}

/**
 * The circuit that fits complex admittances best, unweighted, by Levenberg and Marquardt in logarithms: all four are
 * positive.
 *
 * @param frequency  Hz
 * @param G, B  conductance and susceptance, S
 */
export function fitCircuit(frequency: Float64Array, G: Float64Array, B: Float64Array, start: Circuit): FittedCircuit {
  const n = frequency.length
  const w = frequency.map(f => 2 * Math.PI * f)
  const circuitOf = (p: Float64Array): Circuit => ({
    R1: Math.exp(p[0]!),
    L1: Math.exp(p[1]!),
    C1: Math.exp(p[2]!),
    C0: Math.exp(p[3]!),
  })
  const fit = fitNonlinear({
    parameters: KEYS.map(name => ({ name, start: Math.log(start[name]) })),
    residuals: p => misfit(circuitOf(p), w, G, B),
    slopes(p) {
      const c = circuitOf(p)
      const columns = KEYS.map(() => new Float64Array(2 * n))
      for (let i = 0; i < n; i++) {
        const x = w[i]! * c.L1 - 1 / (w[i]! * c.C1)
        // −1/Z² of the motional branch, times what each parameter adds to Z.
        const size = (c.R1 ** 2 + x * x) ** 2
        const [a, b] = [-(c.R1 ** 2 - x * x) / size, (2 * c.R1 * x) / size]
        const parts = [
          [c.R1, 0],
          [0, w[i]! * c.L1],
          [0, 1 / (w[i]! * c.C1)],
        ] as const
        parts.forEach(([re, im], k) => {
          columns[k]![i] = a * re - b * im
          columns[k]![n + i] = a * im + b * re
        })
        columns[3]![n + i] = w[i]! * c.C0
      }
      return columns
    },
  })
  const values = circuitOf(fit.values)
  return {
    ...values,
    errors: Object.fromEntries(KEYS.map((k, i) => [k, values[k] * fit.errors[i]!])) as unknown as Circuit,
  }
}

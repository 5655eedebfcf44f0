import { combine, type Contribution } from './coverage'

export interface Input {
  name: string
  value: number
  /** Standard uncertainty. */
  u: number
  /** Infinite where it is not given. */
  dof: number
}

export interface Correlation {
  a: string
  b: string
  r: number
}

export interface Propagated {
  value: number
  u: number
  dof: number
  k: number
  sensitivities: number[]
  contributions: Contribution[]
}

export interface Model {
  /** The measurand for inputs in the given order. */
  value(x: ArrayLike<number>): number
  /** Its partial derivative by the i-th input, where there is a formula for it. */
  slope?(x: ArrayLike<number>, i: number): number
}

/**
 * First-order propagation through a model: sensitivities by formula, else by half the change over ±u (GUM 5.1.3, note
 * 2); covariances where inputs are correlated; effective degrees of freedom by Welch–Satterthwaite.
 *
 * @source JCGM 100:2008 (GUM), 5.1.2, 5.2.2, G.4
 */
export function propagate(model: Model, inputs: Input[], correlations: Correlation[] = []): Propagated {
  const x = Float64Array.from(inputs, i => i.value)
  const sensitivities = inputs.map((input, i) =>
    model.slope ? model.slope(x, i) : differenceQuotient(model, x, i, input),
  )
  const parts = inputs.map((input, i) => sensitivities[i]! * input.u)
  const contributions = inputs.map((input, i): Contribution => ({
    name: input.name,
    contribution: Math.abs(parts[i]!),
    dof: input.dof,
  }))
  const index = (name: string) => inputs.findIndex(i => i.name === name)
  const covariance = correlations.reduce((sum, { a, b, r }) => sum + 2 * r * parts[index(a)]! * parts[index(b)]!, 0)
  const independent = combine(contributions)
  if (covariance === 0) return { value: model.value(x), ...independent, sensitivities, contributions }
  const u = Math.sqrt(Math.max(0, independent.u ** 2 + covariance))
  // Welch–Satterthwaite with the u that the correlation leaves.
  const dof = Number.isFinite(independent.dof) ? independent.dof * (u / independent.u) ** 4 : Infinity
  return {
    value: model.value(x),
    u,
    dof,
    k: combine([{ name: '', contribution: 1, dof }]).k,
    sensitivities,
    contributions,
  }
}

const CUBE_ROOT_OF_EPSILON = 6.055e-6

function differenceQuotient(model: Model, x: Float64Array, i: number, { value, u }: Input): number {
  const h = u > 0 ? u : CUBE_ROOT_OF_EPSILON * Math.max(1, Math.abs(value))
  const at = (v: number) => {
    x[i] = v
    const y = model.value(x)
    x[i] = value
    return y
  }
  return (at(value + h) - at(value - h)) / (2 * h)
}

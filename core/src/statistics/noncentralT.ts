import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import lnGamma from '@stdlib/math-base-special-gammaln'
import { gaussLegendre } from './gaussLegendre'

const { nodes, weights } = gaussLegendre(20)
const TAIL = 9

/**
 * Distribution function and density of the noncentral t: P(T ≤ t) = ∫ Φ(t·s − δ)·g(s) ds with s = χ_ν/√ν, by
 * Gauss–Legendre over panels that resolve both factors.
 *
 * @param dof  ν > 0
 * @param delta  noncentrality δ
 * @source Johnson, Kotz & Balakrishnan, Continuous Univariate Distributions 2, ch. 31
 */
export function noncentralT(t: number, dof: number, delta: number): { cdf: number; pdf: number } {
  const logScale = Math.LN2 + (dof / 2) * Math.log(dof / 2) - lnGamma(dof / 2)
  const density = (s: number) => Math.exp(logScale + (dof - 1) * Math.log(s) - (dof * s * s) / 2)
  let [cdf, pdf] = [0, 0]
  const edges = panels(t, dof, delta)
  for (let p = 0; p < edges.length - 1; p++) {
    const [a, b] = [edges[p]!, edges[p + 1]!]
    for (let i = 0; i < nodes.length; i++) {
      const s = (a + b) / 2 + ((b - a) / 2) * nodes[i]!
      const w = ((b - a) / 2) * weights[i]! * density(s)
      const z = t * s - delta
      cdf += w * normalCdf(z, 0, 1)
      pdf += (w * s * Math.exp((-z * z) / 2)) / Math.sqrt(2 * Math.PI)
    }
  }
  return { cdf, pdf }
}

/** Edges of the panels: the bulk of g around 1, and the step of Φ around δ/t. */
function panels(t: number, dof: number, delta: number): number[] {
  const width = 1 / Math.sqrt(2 * dof)
  const low = Math.max(0, 1 - 2 * TAIL * width)
  const high = 1 + 2 * TAIL * width + TAIL / Math.sqrt(dof)
  const edges = Array.from({ length: 25 }, (_, i) => low + ((high - low) * i) / 24)
  if (t !== 0) for (let k = -TAIL; k <= TAIL; k += 1.5) edges.push((delta + k) / t)
  return [...new Set(edges.filter(s => s >= low && s <= high))].sort((a, b) => a - b)
}

/** Quantile by Newton from a normal start, kept inside a bracket. */
export function noncentralTQuantile(p: number, dof: number, delta: number): number {
  let [low, high] = [delta - 10, delta + 10]
  while (noncentralT(low, dof, delta).cdf > p) low -= 2 * (high - low)
  while (noncentralT(high, dof, delta).cdf < p) high += 2 * (high - low)
  let t = (low + high) / 2
  for (let i = 0; i < 100; i++) {
    const { cdf, pdf } = noncentralT(t, dof, delta)
    if (cdf < p) low = t
    else high = t
    const step = (cdf - p) / pdf
    const next = t - step
    const previous = t
    t = Number.isFinite(next) && next > low && next < high ? next : (low + high) / 2
    if (Math.abs(t - previous) <= 1e-13 * Math.max(1, Math.abs(t))) break
  }
  return t
}

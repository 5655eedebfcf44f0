import normalQuantile from '@stdlib/stats-base-dists-normal-quantile'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'

/** Two-sided level of confidence of every expanded uncertainty here (GUM, two standard deviations of a normal). */
export const COVERAGE = 0.9545

/** Coverage factor k at 95.45 % for `dof` effective degrees of freedom; normal where they are infinite. */
export function coverageFactor(dof: number): number {
  const p = (1 + COVERAGE) / 2
  return Number.isFinite(dof) ? tQuantile(p, dof) : normalQuantile(p, 0, 1)
}

/** One input's part in a combined standard uncertainty. */
export interface Contribution {
  name: string
  /** abs(sensitivity · u), in the unit of the result. */
  contribution: number
  dof: number
}

/**
 * Root sum of squares with effective degrees of freedom by Welch–Satterthwaite, not rounded.
 *
 * @source JCGM 100:2008 (GUM), G.4
 */
export function combine(contributions: Contribution[]): { u: number; dof: number; k: number } {
  const u = Math.sqrt(contributions.reduce((s, c) => s + c.contribution ** 2, 0))
  const spread = contributions.reduce((s, c) => s + (Number.isFinite(c.dof) ? c.contribution ** 4 / c.dof : 0), 0)
  const dof = spread > 0 ? u ** 4 / spread : Infinity
  return { u, dof, k: coverageFactor(dof) }
}

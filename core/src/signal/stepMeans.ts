import { fitLine } from '../statistics/line'

/** Samples of a step: [from, to). */
export interface StepSpan {
  from: number
  to: number
}

/** Mean of each step over the samples that are there; NaN where there is none. */
export function stepMeans(y: Float64Array, spans: readonly StepSpan[]): Float64Array {
  const means = new Float64Array(spans.length)
  for (const [k, { from, to }] of spans.entries()) {
    let [sum, n] = [0, 0]
    for (let i = Math.max(0, from); i < Math.min(to, y.length); i++) {
      const v = y[i]!
      if (v === v) {
        sum += v
        n++
      }
    }
    means[k] = n > 0 ? sum / n : NaN
  }
  return means
}

/** How a channel goes with the guide over the steps. */
export interface StepLine {
  /** Per unit of the guide; null where the steps tell no slope. */
  slope: number | null
  /** Largest distance of a step from the line, as a share of the channel's range over the steps. */
  nonlinearity: number | null
}

const FEWEST = 3

/**
 * A straight line through a channel's step means over the guide's, and how far the steps are from it.
 *
 * @param means, guide  one a step; steps with a gap in either are left out
 * @example lineOfSteps([0, 1, 2.2, 3], [0, 1, 2, 3]) // slope 1.02, nonlinearity 0.047
 */
export function lineOfSteps(means: ArrayLike<number>, guide: ArrayLike<number>): StepLine {
  const kept = Array.from(means as number[], (_, i) => i).filter(
    i => !Number.isNaN(means[i]!) && !Number.isNaN(guide[i]!),
  )
  const [x, y] = [kept.map(i => guide[i]!), kept.map(i => means[i]!)]
  const range = Math.max(...y) - Math.min(...y)
  if (kept.length < FEWEST || !(Math.max(...x) > Math.min(...x))) return { slope: null, nonlinearity: null }
  const { slope, intercept } = fitLine(x, y)
  const farthest = Math.max(...y.map((v, i) => Math.abs(v - intercept - slope * x[i]!)))
  return { slope, nonlinearity: range > 0 ? farthest / range : null }
}

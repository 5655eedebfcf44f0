import { valueAt } from '../../signal/valueAt'

export interface Agreement {
  /** Measured points within the model's range, and those left out. */
  n: number
  outside: number
  /** Mean of model less test. */
  bias: number
  rmse: number
  /** rmse over the range of what was measured. */
  nrmse: number
  r2: number
  /** Test on model through zero: by how much the model would have to be stretched. */
  scale: number
  /** The largest of model less test, signed, and where. */
  maxDeviation: number
  maxDeviationAt: number
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((s, v, i) => s + v * b[i]!, 0)

/**
 * A model's curve, straight between its points, against the measured one on the measured grid.
 *
 * @param model  x rising
 * @returns null where no measured point lies within the model's range
 */
export function againstModel(
  model: { x: readonly number[]; y: readonly number[] },
  test: { x: readonly number[]; y: readonly number[] },
): Agreement | null {
  const points = test.x.map((x, i) => ({ x, y: test.y[i]! })).filter(p => p.x >= model.x[0]! && p.x <= model.x.at(-1)!)
  if (points.length === 0) return null
  const [measured, modelled] = [points.map(p => p.y), points.map(p => valueAt(model, p.x))]
  const difference = modelled.map((m, i) => m - measured[i]!)
  const n = points.length
  const mean = measured.reduce((s, v) => s + v, 0) / n
  const rss = dot(difference, difference)
  const rmse = Math.sqrt(rss / n)
  const worst = difference.reduce((w, d, i) => (Math.abs(d) > Math.abs(difference[w]!) ? i : w), 0)
  return {
    n,
    outside: test.x.length - n,
    bias: difference.reduce((s, d) => s + d, 0) / n,
    rmse,
    nrmse: rmse / (Math.max(...measured) - Math.min(...measured)),
    r2: 1 - rss / measured.reduce((s, v) => s + (v - mean) ** 2, 0),
    scale: dot(measured, modelled) / dot(modelled, modelled),
    maxDeviation: difference[worst]!,
    maxDeviationAt: points[worst]!.x,
  }
}

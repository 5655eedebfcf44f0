import { valueAt } from '../signal/valueAt'
export interface Curve {
  x: readonly (number | null)[]
  y: readonly (number | null)[]
}

export interface CurveDifference {
  /** Over what both reach. */
  x: number[]
  a: number[]
  b: number[]
  /** b − a. */
  difference: number[]
  /** Mean of b − a over the range, and as a share of a's mean. */
  mean: number
  meanShare: number | null
  /** Where b lost most against a, and gained most; null where it did not. */
  lost: { x: number; by: number } | null
  gained: { x: number; by: number } | null
  /** Longest stretch over which b lies below a; null where it nowhere does. */
  below: [number, number] | null
}

const POINTS = 240

/** The way out of a curve that may come back: points whose x lies beyond all before. */
export function wayOut({ x, y }: Curve): { x: number[]; y: number[] } {
  const out: { x: number[]; y: number[] } = { x: [], y: [] }
  for (let i = 0; i < x.length; i++) {
    const [xi, yi] = [x[i], y[i]]
    if (xi == null || yi == null || (out.x.length > 0 && xi <= out.x.at(-1)!)) continue
    out.x.push(xi)
    out.y.push(yi)
  }
  return out
}

/**
 * Two curves over one grid, point by point: the mean over the range says little where one corner got better and the
 * next
 * worse.
 *
 * @returns null where they do not overlap, or one has fewer than two points
 */
export function differenceCurve(first: Curve, second: Curve): CurveDifference | null {
  const [a, b] = [wayOut(first), wayOut(second)]
  if (a.x.length < 2 || b.x.length < 2) return null
  const [from, to] = [Math.max(a.x[0]!, b.x[0]!), Math.min(a.x.at(-1)!, b.x.at(-1)!)]
  if (!(to > from)) return null
  const x = Array.from({ length: POINTS + 1 }, (_, i) => from + ((to - from) * i) / POINTS)
  const [ya, yb] = [a, b].map(c => x.map(v => valueAt(c, v))) as [number[], number[]]
  const difference = yb.map((v, i) => v - ya[i]!)
  const mean = trapezoid(difference)
  const meanA = trapezoid(ya)
  const lowest = difference.indexOf(Math.min(...difference))
  const highest = difference.indexOf(Math.max(...difference))
  return {
    x,
    a: ya,
    b: yb,
    difference,
    mean,
    meanShare: meanA === 0 ? null : mean / meanA,
    lost: difference[lowest]! < 0 ? { x: x[lowest]!, by: -difference[lowest]! } : null,
    gained: difference[highest]! > 0 ? { x: x[highest]!, by: difference[highest]! } : null,
    below: longestBelow(x, difference),
  }
}

/** Mean over an even grid. */
const trapezoid = (v: readonly number[]): number =>
  (v.reduce((s, y) => s + y, 0) - (v[0]! + v.at(-1)!) / 2) / (v.length - 1)

function longestBelow(x: readonly number[], d: readonly number[]): [number, number] | null {
  let best: [number, number] | null = null
  let start: number | null = null
  for (let i = 0; i <= d.length; i++) {
    if (i < d.length && d[i]! < 0) start ??= i
    else if (start !== null) {
      const run: [number, number] = [x[start]!, x[i - 1]!]
      if (!best || run[1] - run[0] > best[1] - best[0]) best = run
      start = null
    }
  }
  return best
}

/** Repeatability of two: how far they lie apart over their mean. */
export const repeatability = (a: number, b: number): number | null =>
  a + b === 0 ? null : Math.abs(a - b) / Math.abs((a + b) / 2)

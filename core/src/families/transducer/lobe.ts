import { indexOfMax } from '../../signal/rising'
import { leastSquares } from '../../statistics/leastSquares'

/** Rows that lie no farther below the largest tell where the top is, dB; and how many of them it takes. */
const [TOP, FEWEST] = [1, 3]

export interface Top {
  /** Largest row, the first of equals. */
  row: number
  /** Place and level of the top. */
  at: number
  level: number
}

/**
 * The top of a curve of levels: of the parabola of least squares through the rows about the largest one that lie within
 * a decibel of it without a break, where it bends down and its vertex lies among them; else the largest row.
 *
 * @param x  rising
 * @param level  dB
 */
export function topOf(x: Float64Array, level: Float64Array): Top {
  const row = indexOfMax(level)
  let [from, to] = [row, row]
  while (from > 0 && level[from - 1]! >= level[row]! - TOP) from--
  while (to < level.length - 1 && level[to + 1]! >= level[row]! - TOP) to++
  const largest = { row, at: x[row]!, level: level[row]! }
  if (to - from + 1 < FEWEST) return largest
  const scale = x[to]! - x[from]!
  const d = Array.from({ length: to - from + 1 }, (_, i) => (x[from + i]! - x[row]!) / scale)
  const { coefficients } = leastSquares(
    d.map(v => [1, v, v * v]),
    level.subarray(from, to + 1),
  )
  const [c, b, a] = [coefficients[0]!, coefficients[1]!, coefficients[2]!]
  const vertex = -b / (2 * a)
  if (!(a < 0) || vertex < d[0]! || vertex > d.at(-1)!) return largest
  return { row, at: x[row]! + vertex * scale, level: c + (b * vertex) / 2 }
}

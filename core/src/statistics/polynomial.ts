import { leastSquares } from './leastSquares'

/**
 * A polynomial through points by least squares, of at most the second degree, and of less where there are too few
 * places
 * for it: its value at another place.
 *
 * @param points  at least one
 * @param same  places no farther apart than this count as one
 * @example curveThrough([{ x: 1, y: 1 }, { x: 2, y: 4 }, { x: 3, y: 9 }], 4) // 16
 */
export function curveThrough(points: readonly { x: number; y: number }[], at: number, same = 0): number {
  const places = points
    .map(p => p.x)
    .sort((a, b) => a - b)
    .filter((x, i, all) => i === 0 || x - all[i - 1]! > same).length
  const degree = Math.min(2, places - 1)
  const scale = Math.max(...points.map(p => Math.abs(p.x)), Math.abs(at)) || 1
  const row = (x: number) => Array.from({ length: degree + 1 }, (_, k) => (x / scale) ** k)
  const { coefficients } = leastSquares(
    points.map(p => row(p.x)),
    Float64Array.from(points, p => p.y),
  )
  return row(at).reduce((sum, v, k) => sum + v * coefficients[k]!, 0)
}

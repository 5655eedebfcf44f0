import { HypometError } from '../error'
import { leastSquares } from '../statistics/leastSquares'
import { centreOf, cross, minus, point, type Point } from '../geometry/point'

/** Standard deviation of a target's place along each axis, m. */
export type Scatter = Point

/**
 * What taking a fixture's motion off leaves at a place: standard uncertainty along a direction, m, from how far the
 * fixture's targets scatter. A turn told by targets that stand close together is uncertain, and the more so the farther
 * a place is from them.
 */
export type FixtureNoise = (place: Point, direction: Point) => number

/**
 * The uncertainty of a fixture's motion by that of its targets, first order: the six numbers of a small motion are
 * linear in what the targets did.
 *
 * @param holders  places of the fixture's targets at rest, m, at least three that are not on one line
 * @param scatter  of each, in one picture
 * @returns  null where the holders tell no motion
 * @source JCGM 100:2008, 5.1; the turn's matrix as in any rigid body's small motion
 */
export function fixtureNoise(holders: readonly Point[], scatter: readonly Scatter[]): FixtureNoise | null {
  const middle = centreOf(holders)
  // One row an axis of each holder: three shifts of the middle and three turns about it.
  const rowsAt = (place: Point): number[][] => {
    const d = minus(place, middle)
    return [0, 1, 2].map(axis => [
      ...[0, 1, 2].map(k => (k === axis ? 1 : 0)),
      ...[0, 1, 2].map(
        k =>
          cross(
            point(j => (j === k ? 1 : 0)),
            d,
          )[axis]!,
      ),
    ])
  }
  const rows = holders.flatMap(rowsAt)
  const variances = scatter.flatMap(s => s.map(v => v * v))
  const inverse = inverseOf(rows)
  if (!inverse) return null
  return (place, direction) => {
    const axes = rowsAt(place)
    const at = axes[0]!.map((_, j) => direction.reduce((s, d, axis) => s + d * axes[axis]![j]!, 0))
    // The weight of every reading in the motion at this place.
    const through = inverse[0]!.map((_, k) => at.reduce((s, v, j) => s + v * inverse[j]![k]!, 0))
    const weights = rows.map(row => row.reduce((s, v, j) => s + v * through[j]!, 0))
    return Math.sqrt(weights.reduce((s, w, k) => s + w * w * variances[k]!, 0))
  }
}

function inverseOf(rows: number[][]): number[][] | null {
  if (rows.length < 9) return null
  try {
    return leastSquares(
      rows,
      rows.map(() => 0),
    ).inverse.map(r => [...r])
  } catch (e) {
    if (e instanceof HypometError) return null
    throw e
  }
}

import { symmetricEigen } from '../statistics/symmetricEigen'
import { centreOf, cross, dot, minus, norm, point, type Point } from './point'

/** A turn and a shift: moved = turn·p + shift. */
export interface RigidMotion {
  turn: readonly [Point, Point, Point]
  shift: Point
  /** rad about its axis. */
  angle: number
  /** Root of the mean square of what it leaves. */
  residual: number
}

/**
 * The turn and shift that carry one set of points onto another with the least squares left over, by the largest
 * eigenvector of the quaternion's matrix.
 *
 * @param from, to  the same points before and after, at least three that are not on one line
 * @returns  null where the points do not determine a turn
 * @source Horn (1987), Closed-form solution of absolute orientation using unit quaternions
 */
export function rigidMotion(from: readonly Point[], to: readonly Point[]): RigidMotion | null {
  const n = from.length
  if (n < 3) return null
  const [a, b] = [centreOf(from), centreOf(to)]
  const moment = (i: 0 | 1 | 2, j: 0 | 1 | 2) => from.reduce((s, p, k) => s + (p[i] - a[i]) * (to[k]![j] - b[j]), 0)
  const S = [0, 1, 2].map(i => point(j => moment(i as 0 | 1 | 2, j)))
  const [[xx, xy, xz], [yx, yy, yz], [zx, zy, zz]] = S as [Point, Point, Point]
  if (isOnLine(from, a)) return null
  const q = largestEigenvector([
    [xx + yy + zz, yz - zy, zx - xz, xy - yx],
    [yz - zy, xx - yy - zz, xy + yx, zx + xz],
    [zx - xz, xy + yx, yy - xx - zz, yz + zy],
    [xy - yx, zx + xz, yz + zy, zz - xx - yy],
  ])
  const [w, x, y, z] = q
  const turn = [
    [w * w + x * x - y * y - z * z, 2 * (x * y - w * z), 2 * (x * z + w * y)],
    [2 * (x * y + w * z), w * w - x * x + y * y - z * z, 2 * (y * z - w * x)],
    [2 * (x * z - w * y), 2 * (y * z + w * x), w * w - x * x - y * y + z * z],
  ] as const
  const turned = rotated(turn, a)
  const shift: Point = [b[0] - turned[0], b[1] - turned[1], b[2] - turned[2]]
  const motion = { turn, shift, angle: 2 * Math.atan2(Math.hypot(x, y, z), Math.abs(w)), residual: 0 }
  const left = from.reduce((s, p, k) => {
    const m = movedBy(motion, p)
    return s + (m[0] - to[k]![0]) ** 2 + (m[1] - to[k]![1]) ** 2 + (m[2] - to[k]![2]) ** 2
  }, 0)
  return { ...motion, residual: Math.sqrt(left / n) }
}

/** The motion of places from where they were at rest to where those that are seen are now. */
export function motionOf(rest: readonly Point[], now: (k: number) => Point): RigidMotion | null {
  const seen = rest.map((from, k) => ({ from, to: now(k) })).filter(p => p.to.every(Number.isFinite))
  return rigidMotion(
    seen.map(p => p.from),
    seen.map(p => p.to),
  )
}

const rotated = (turn: RigidMotion['turn'], p: Point): Point => point(i => dot(turn[i], p))

export const movedBy = ({ turn, shift }: Pick<RigidMotion, 'turn' | 'shift'>, p: Point): Point => {
  const r = rotated(turn, p)
  return [r[0] + shift[0], r[1] + shift[1], r[2] + shift[2]]
}

/** Where a point was before the motion. */
export function movedBack({ turn, shift }: Pick<RigidMotion, 'turn' | 'shift'>, p: Point): Point {
  const d = minus(p, shift)
  return point(j =>
    dot(
      point(i => turn[i][j]),
      d,
    ),
  )
}

/** All points within a thousandth of the set's size of one line. */
function isOnLine(points: readonly Point[], centre: Point): boolean {
  const d = points.map(p => minus(p, centre))
  const far = d.reduce((m, v) => (norm(v) > norm(m) ? v : m))
  const size = norm(far)
  if (size === 0) return true
  return d.every(v => norm(cross(v, far)) / size < 1e-3 * size)
}

/** The eigenvector of the largest eigenvalue of a symmetric matrix of four. */
function largestEigenvector(matrix: number[][]): [number, number, number, number] {
  const { values, vectors } = symmetricEigen(matrix)
  const best = values.reduce((m, v, i) => (v > values[m]! ? i : m), 0)
  return vectors.map(r => r[best]!) as [number, number, number, number]
}

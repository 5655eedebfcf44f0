import { meanRead } from '../statistics/mean'
import { dot, minus, point, type Point } from './point'
import { motionOf, movedBack, rigidMotion } from './rigidMotion'

export type Path = readonly [Float64Array, Float64Array, Float64Array]

/**
 * How far a place went along a direction since the rest at the beginning, the rigid motion of what holds it taken off.
 *
 * @param until  s from when all places are seen for the first time, in which they are at rest
 * @param direction  in the axes of the file; of any length
 * @param holders  paths of places on the fixture; none takes nothing off
 * @returns  m; NaN where the place or all but two of the holders were not seen; null where the holders tell no motion
 */
export function movedAlong(
  path: Path,
  { t, until, direction, holders }: { t: Float64Array; until: number; direction: Point; holders: readonly Path[] },
): Float64Array | null {
  const n = path[0].length
  const first = path[0].findIndex((_, i) => [path, ...holders].every(p => placeAt(p, i).every(Number.isFinite)))
  if (first < 0) return new Float64Array(n).fill(NaN)
  const after = t.findIndex(v => v > t[first]! + until)
  const resting = [first, after < 0 ? n : after] as const
  const home = meanPlace(path, resting)
  const rest = holders.map(h => meanPlace(h, resting))
  if (holders.length > 0 && !rigidMotion(rest, rest)) return null
  const size = Math.hypot(...direction)
  return Float64Array.from({ length: n }, (_, i) => {
    const now = placeAt(path, i)
    if (holders.length === 0) return dot(minus(now, home), direction) / size
    const motion = motionOf(rest, k => placeAt(holders[k]!, i))
    return motion ? dot(minus(movedBack(motion, now), home), direction) / size : NaN
  })
}

const placeAt = (path: Path, i: number): Point => point(k => path[k][i]!)

const meanPlace = (path: Path, [from, to]: readonly [number, number]): Point =>
  point(k => meanRead(path[k].subarray(from, to)))

import { meanRead } from '../statistics/mean'
import { dot, minus, point, type Point } from './point'
import { motionOf } from './targets'
import { movedBack, rigidMotion } from './rigidMotion'

export type Path = readonly [Float64Array, Float64Array, Float64Array]

/**
 * How far a place went along a direction since the rest at the beginning, the rigid motion of what holds it taken off.
 *
 * @param resting  samples at rest
 * @param direction  in the axes of the file; of any length
 * @param holders  paths of places on the fixture; none takes nothing off
 * @returns  m; NaN where the place or all but two of the holders were not seen; null where the holders tell no motion
 */
export function movedAlong(
  path: Path,
  { resting, direction, holders }: { resting: number; direction: Point; holders: readonly Path[] },
): Float64Array | null {
  const n = path[0].length
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

const meanPlace = (path: Path, resting: number): Point => point(k => meanRead(path[k].subarray(0, resting)))

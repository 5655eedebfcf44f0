import { largestSize } from './rising'

/** Of the largest reading: what moves by less is at rest. */
const AT_REST = 0.01
const FEWEST = 10
/** Cut off at the end of the rest, where it may have begun to move. */
const TRIMMED = 0.15

/**
 * The rest that a record begins with, as a window for its zero: up to where a channel first leaves its beginning by a
 * hundredth of its largest reading. Null where it begins under load or moving.
 *
 * @param t, y  s and any unit, no gaps
 */
export function quietStart(t: Float64Array, y: Float64Array): [number, number] | null {
  if (y.length < 3 * FEWEST) return null
  const most = largestSize(y)
  let first = 0
  for (let i = 0; i < FEWEST; i++) first += y[i]! / FEWEST
  if (Math.abs(first) > 5 * AT_REST * most) return null
  const moved = y.findIndex(v => Math.abs(v - first) > AT_REST * most)
  if (moved < FEWEST) return null
  const [from, to] = [t[0]!, t[moved]! - TRIMMED * (t[moved]! - t[0]!)]
  return [from, to].map(v => Number(v.toPrecision(6))) as [number, number]
}

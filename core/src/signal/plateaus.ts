import { hasGap } from './gaps'
import { meanSd } from '../statistics/mean'
import { fitLine } from '../statistics/line'
import { median } from '../statistics/quantile'

/** Samples of a plateau: [from, to). */
export interface Plateau {
  from: number
  to: number
}

const SAME_TIME = 1e-9

/**
 * Plateaus of a guide channel: the longest run with max − min ≤ 2·tolerance (of equals the earlier), then the same to
 * its left and right, as long as a run lasts at least `minHold`; in order of time, each trimmed of the ramps beside it.
 *
 * @param t  rising times, s
 * @param y  guide, same length, no gaps
 * @param tolerance  half width, unit of `y`
 * @param minHold  s
 */
export function findPlateaus(t: Float64Array, y: Float64Array, tolerance: number, minHold: number): Plateau[] {
  const found: Plateau[] = []
  const reach = reachOf(y, 2 * tolerance)
  const open: [number, number][] = [[0, y.length]]
  while (open.length > 0) {
    const [from, to] = open.pop()!
    if (to <= from || t[to - 1]! - t[from]! < minHold - SAME_TIME) continue
    const run = longestRun(t, reach, from, to)
    if (t[run.to - 1]! - t[run.from]! < minHold - SAME_TIME) continue
    found.push(run)
    open.push([from, run.from], [run.to, to])
  }
  return found.map(p => trimmed(y, p, tolerance)).sort((a, b) => a.from - b.from)
}

const FEWEST_TO_TRIM = 8

/**
 * A plateau without the ends of the ramps beside it: from both ends inward until three samples in a row lie within the
 * larger of 3 s and a twentieth of the tolerance of m, m and s = 1.4826·MAD being those of its middle half.
 */
function trimmed(y: Float64Array, plateau: Plateau, tolerance: number): Plateau {
  const { from, to } = plateau
  const quarter = Math.ceil((to - from) / 4)
  if (to - from < FEWEST_TO_TRIM) return plateau
  const middle = y.subarray(from + quarter, to - quarter)
  const m = median(middle)
  const within = Math.max(3 * 1.4826 * median(middle.map(v => Math.abs(v - m))), tolerance / 20)
  const isLevel = (i: number) => Math.abs(y[i]! - m) <= within
  const areLevel = (i: number) => isLevel(i) && isLevel(i + 1) && isLevel(i + 2)
  let first = from
  while (first + 3 <= to && !areLevel(first)) first++
  if (first + 3 > to) return plateau
  let last = to
  while (!areLevel(last - 3)) last--
  return { from: first, to: last }
}

/**
 * For each sample where the run that begins there ends. A window slides over the guide with its extremes in two parts:
 * of
 * the older samples extremes up to the part's end are known from one pass back, of the newer ones the extremes so far;
 * an
 * emptied older part is made anew of the newer one. Linear, without a queue.
 */
function reachOf(y: Float64Array, width: number): Int32Array {
  const n = y.length
  const [low, high, reach] = [new Float64Array(n), new Float64Array(n), new Int32Array(n)]
  let [start, older, newLow, newHigh] = [0, 0, Infinity, -Infinity]
  for (let i = 0; i < n; i++) {
    const v = y[i]!
    if (v < newLow) newLow = v
    if (v > newHigh) newHigh = v
    for (;;) {
      const isOld = start < older
      const least = isOld && low[start]! < newLow ? low[start]! : newLow
      const most = isOld && high[start]! > newHigh ? high[start]! : newHigh
      if (most - least <= width) break
      if (isOld) reach[start++] = i
      else {
        older = i + 1
        let [l, h] = [Infinity, -Infinity]
        for (let j = i; j >= start; j--) {
          if (y[j]! < l) l = y[j]!
          if (y[j]! > h) h = y[j]!
          low[j] = l
          high[j] = h
        }
        newLow = Infinity
        newHigh = -Infinity
      }
    }
  }
  while (start < n) reach[start++] = n
  return reach
}

/** The longest run inside [from, to): of equals the earlier. */
function longestRun(t: Float64Array, reach: Int32Array, from: number, to: number): Plateau {
  let best: Plateau = { from, to: from + 1 }
  let longest = 0
  let last = -1
  for (let i = from; i < to; i++) {
    const end = reach[i]! < to ? reach[i]! : to
    // A run that ends where the one before it does is shorter.
    if (end === last) continue
    last = end
    const duration = t[end - 1]! - t[i]!
    if (duration > longest + SAME_TIME) {
      longest = duration
      best = { from: i, to: end }
    }
  }
  return best
}

export function plateauStatistics(
  t: Float64Array,
  y: Float64Array,
  { from, to }: Plateau,
): { mean: number | null; sd: number | null; creep: number | null } {
  const [all, times] = [y.subarray(from, to), t.subarray(from, to)]
  const gaps = hasGap(all)
  const values = gaps ? all.filter(v => !Number.isNaN(v)) : all
  if (values.length === 0) return { mean: null, sd: null, creep: null }
  const { mean, sd } = meanSd(values)
  if (values.length < 3) return { mean, sd: values.length < 2 ? null : sd, creep: null }
  const { slope } = fitLine(gaps ? times.filter((_, i) => !Number.isNaN(all[i]!)) : times, values)
  return { mean, sd, creep: slope * (t[to - 1]! - t[from]!) }
}

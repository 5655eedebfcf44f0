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
export const findPlateaus = (t: Float64Array, y: Float64Array, tolerance: number, minHold: number): Plateau[] =>
  plateausOf(t, y, tolerance)(minHold)

/** The same for several shortest holds: how far each sample's run reaches is looked at once. */
export function plateausOf(t: Float64Array, y: Float64Array, tolerance: number): (minHold: number) => Plateau[] {
  const reach = reachOf(y, 2 * tolerance)
  const begins = beginsOf(reach)
  const trimmedOnce = new Map<string, Plateau>()
  const trim = (p: Plateau): Plateau => {
    const run = `${p.from} ${p.to}`
    let known = trimmedOnce.get(run)
    if (!known) trimmedOnce.set(run, (known = trimmed(y, p, tolerance)))
    return known
  }
  return minHold => {
    const found: Plateau[] = []
    const open: [number, number][] = [[0, y.length]]
    while (open.length > 0) {
      const [from, to] = open.pop()!
      if (to <= from || t[to - 1]! - t[from]! < minHold - SAME_TIME) continue
      const run = longestRun(t, reach, begins, from, to)
      if (t[run.to - 1]! - t[run.from]! < minHold - SAME_TIME) continue
      found.push(run)
      open.push([from, run.from], [run.to, to])
    }
    return found.map(trim).sort((a, b) => a.from - b.from)
  }
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
  const away = new Float64Array(middle.length)
  for (let i = 0; i < away.length; i++) away[i] = Math.abs(middle[i]! - m)
  const within = Math.max(3 * 1.4826 * median(away), tolerance / 20)
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
  let [least, most] = [Infinity, -Infinity]
  for (let i = 0; i < n; i++) {
    const v = y[i]!
    if (v < newLow) newLow = v
    if (v > newHigh) newHigh = v
    if (v < least) least = v
    if (v > most) most = v
    // Mostly the window only grows.
    while (most - least > width) {
      if (start < older) reach[start++] = i
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
      const isOld = start < older
      least = isOld && low[start]! < newLow ? low[start]! : newLow
      most = isOld && high[start]! > newHigh ? high[start]! : newHigh
    }
  }
  while (start < n) reach[start++] = n
  return reach
}

/** Where a run begins that ends elsewhere than the one before it, which is longer otherwise. */
function beginsOf(reach: Int32Array): Int32Array {
  let n = 0
  const begins = new Int32Array(reach.length)
  for (let i = 0; i < reach.length; i++) if (i === 0 || reach[i] !== reach[i - 1]) begins[n++] = i
  return begins.subarray(0, n)
}

/** The longest run inside [from, to): of equals the earlier. */
function longestRun(t: Float64Array, reach: Int32Array, begins: Int32Array, from: number, to: number): Plateau {
  let best: Plateau = { from, to: from + 1 }
  let longest = 0
  const look = (i: number) => {
    const end = reach[i]! < to ? reach[i]! : to
    const duration = t[end - 1]! - t[i]!
    if (duration > longest + SAME_TIME) {
      longest = duration
      best = { from: i, to: end }
    }
  }
  look(from)
  let [low, high] = [0, begins.length]
  while (low < high) {
    const middle = (low + high) >> 1
    if (begins[middle]! <= from) low = middle + 1
    else high = middle
  }
  for (let k = low; k < begins.length && begins[k]! < to; k++) look(begins[k]!)
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

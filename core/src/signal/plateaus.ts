import type { ResultTable } from '../method/reduction'
import { meanSd } from '../statistics/mean'
import { fitLine } from '../statistics/line'

/** Samples of a plateau: [from, to). */
export interface Plateau {
  from: number
  to: number
}

const SAME_TIME = 1e-9

/**
 * Plateaus of a guide channel: the longest run with max − min ≤ 2·tolerance (of equals the earlier), then the same to
 * its left and right, as long as a run lasts at least `minHold`; in order of time.
 *
 * @param t  rising times, s
 * @param y  guide, same length, no gaps
 * @param tolerance  half width, unit of `y`
 * @param minHold  s
 */
export function findPlateaus(t: Float64Array, y: Float64Array, tolerance: number, minHold: number): Plateau[] {
  const found: Plateau[] = []
  const open: [number, number][] = [[0, y.length]]
  while (open.length > 0) {
    const [from, to] = open.pop()!
    if (to <= from || t[to - 1]! - t[from]! < minHold - SAME_TIME) continue
    const run = longestRun(t, y, from, to, 2 * tolerance)
    if (t[run.to - 1]! - t[run.from]! < minHold - SAME_TIME) continue
    found.push(run)
    open.push([from, run.from], [run.to, to])
  }
  return found.sort((a, b) => a.from - b.from)
}

/** Two pointers with monotone queues of candidates for the minimum and the maximum: linear in the samples. */
function longestRun(t: Float64Array, y: Float64Array, from: number, to: number, width: number): Plateau {
  const lows = new Int32Array(to - from)
  const highs = new Int32Array(to - from)
  let [lowHead, lowTail, highHead, highTail] = [0, 0, 0, 0]
  let best: Plateau = { from, to: from + 1 }
  let longest = 0
  let start = from
  for (let i = from; i < to; i++) {
    const v = y[i]!
    while (lowTail > lowHead && y[lows[lowTail - 1]!]! >= v) lowTail--
    while (highTail > highHead && y[highs[highTail - 1]!]! <= v) highTail--
    lows[lowTail++] = i
    highs[highTail++] = i
    while (y[highs[highHead]!]! - y[lows[lowHead]!]! > width) {
      start++
      if (lows[lowHead]! < start) lowHead++
      if (highs[highHead]! < start) highHead++
    }
    const duration = t[i]! - t[start]!
    if (duration > longest + SAME_TIME) {
      longest = duration
      best = { from: start, to: i + 1 }
    }
  }
  return best
}

/**
 * Step table: start, end, n, and mean, standard deviation and creep (least-squares slope × duration) of each channel,
 * over the samples it has.
 *
 * @param channels  SI columns, gaps NaN; `units` their SI units
 */
export function plateauTable(t: Float64Array, plateaus: Plateau[], channels: Record<string, Float64Array>, units: Record<string, string>): ResultTable {
  const columns: ResultTable['columns'] = {
    start: plateaus.map(p => t[p.from]!),
    end: plateaus.map(p => t[p.to - 1]!),
    n: plateaus.map(p => p.to - p.from),
  }
  const tableUnits: Record<string, string> = { start: 's', end: 's', n: '1' }
  for (const [role, y] of Object.entries(channels)) {
    const rows = plateaus.map(p => plateauStatistics(t, y, p))
    for (const key of ['mean', 'sd', 'creep'] as const) {
      const name = role + key[0]!.toUpperCase() + key.slice(1)
      columns[name] = rows.map(r => r[key])
      tableUnits[name] = units[role] ?? '1'
    }
  }
  return { columns, units: tableUnits }
}

function plateauStatistics(t: Float64Array, y: Float64Array, { from, to }: Plateau): { mean: number | null; sd: number | null; creep: number | null } {
  const kept: number[] = []
  for (let i = from; i < to; i++) if (!Number.isNaN(y[i]!)) kept.push(i)
  if (kept.length === 0) return { mean: null, sd: null, creep: null }
  const values = Float64Array.from(kept, i => y[i]!)
  const { mean, sd } = meanSd(values)
  if (kept.length < 2) return { mean, sd: null, creep: null }
  const { slope } = fitLine(Float64Array.from(kept, i => t[i]!), values)
  return { mean, sd, creep: slope * (t[to - 1]! - t[from]!) }
}

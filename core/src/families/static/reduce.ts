import { noSlope, rowsWith, zeroedRows } from '../../method/rows'
import type { ReduceContext, Table } from '../../method/table'
import { tableOf } from '../../calc/answer'
import type { Bound, Reduction, Result, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { hasGap } from '../../signal/gaps'
import { findPlateaus } from '../../signal/plateaus'
import { plateauTable } from '../../method/plateauTable'
import { indexOfMax, isSloped, largestSize } from '../../signal/rising'
import { windowRange } from '../../signal/window'
import { windowStatistics } from '../../signal/zero'
import { fitLine, type LineFit } from '../../statistics/line'
import { checkRange } from '../../uncertainty/sensor'
import { CALLED_OUT, type StaticSettings } from './settings'

const GAP_SHARE = 0.01
/** Below so much of the largest load a row says nothing of the stiffness; a zero that is off by more was loaded. */
const NEAR_ZERO = 0.02

/**
 * Static reduction: zero, steps, stiffness, deflection at the design load, permanent set, largest load.
 * A test ended by its fixture, or not ended at all, says only that the article carries at least the largest load. What
 * needs no deflection reads rows without one; a result that cannot be had is null and says why.
 *
 * @param table  load [N], deflection [m], free channels (gaps NaN), t [s]
 * @throws HypometError `setting-range` for a window without a load, `over-range` beyond a sensor's full scale
 * @source methods.md, “static”
 */
export function reduceStatic(table: Table, s: StaticSettings, context: ReduceContext): Reduction {
  const warnings: Warning[] = [...gapWarnings(table.channels), ...rangeWarnings(table, context)]
  const roles = ['load', ...Object.keys(table.channels).filter(r => r !== 'load')]
  const zeroed = zeroedRows(table, roles, s.zeroStart, warnings)
  const { t, channels } = rowsWith(zeroed, ['load'])
  const load = channels['load']!
  const plateaus = findPlateaus(t, load, s.holdTolerance, s.minHold)
  const steps = plateauTable(t, plateaus, channels, table.units)
  // What people read at each rung are single rows: none of them stands for a while.
  if (plateaus.length === 0 && t.length >= CALLED_OUT)
    warnings.push({
      code: 'no-steps',
      message:
        `The load never stood within its hold tolerance for ${s.minHold} s: there are no steps. A wider tolerance ` +
        `or a shorter hold finds them.`,
    })
  const both = rowsWith(zeroed, ['load', 'deflection'])
  const analysis = analyse({ t, load }, both, steps, s, warnings)
  return {
    results: resultsOf(analysis, s),
    tables: { steps, ...gaugeTable(t, load, channels, s) },
    warnings,
    traces: { t, ...channels, ...(analysis.fit ? { stiffnessLine: lineBetween(analysis, s) } : {}) },
  }
}

function analyse(
  { t, load }: { t: Float64Array; load: Float64Array },
  both: Table,
  steps: ResultTable,
  s: StaticSettings,
  warnings: Warning[],
): StaticAnalysis {
  const peak = indexOfMax(load)
  const maxLoad = load[peak]!
  warnings.push(...zeroWarnings(t, load, peak, s))
  // The rising branch of the load, as far as a deflection was read with it.
  const rising = {
    load: both.channels['load']!.subarray(0, both.t.findLastIndex(v => v <= t[peak]!) + 1),
    deflection: both.channels['deflection']!,
  }
  const { designLoad } = s
  const deflectionAtDesign =
    designLoad === undefined
      ? null
      : (betweenSteps(steps, t[peak]!, designLoad) ?? crossingMean(rising.load, rising.deflection, designLoad))
  if (designLoad !== undefined && deflectionAtDesign === null)
    warnings.push(
      maxLoad < designLoad
        ? {
            code: 'design-not-reached',
            message: 'The load did not reach the design load; there is no deflection at it.',
          }
        : { code: 'gap', message: 'No deflection was read around the design load; there is no deflection at it.' },
    )
  const { fit, nonlinearity } = stiffnessFit(rising.load, rising.deflection, maxLoad, s, warnings)
  const zeroStart = zeroOf(both, s.zeroStart, 'zeroStart')
  const zeroEnd = s.zeroEnd ? zeroOf(both, s.zeroEnd, 'zeroEnd') : null
  if (s.zeroEnd && (zeroStart === null || zeroEnd === null))
    warnings.push({ code: 'gap', message: 'No deflection was read in a zero window; there is no permanent set.' })
  return {
    maxLoad,
    deflectionAtDesign,
    fit,
    nonlinearity,
    zeroStart,
    zeroEnd,
    largestDeflection: furthest(both.channels['deflection']!),
  }
}

/** The zero was taken off under load, or while the load moved. */
function zeroWarnings(t: Float64Array, load: Float64Array, peak: number, s: StaticSettings): Warning[] {
  const [from, to] = windowRange(t, s.zeroStart)
  const span = spanOf(load.subarray(from, to))
  const below = -lowest(load.subarray(0, peak + 1))
  if (below <= Math.max(NEAR_ZERO * load[peak]!, 2 * s.holdTolerance) && span <= 2 * s.holdTolerance) return []
  const ofLargest = (force: number) => `${((100 * force) / load[peak]!).toPrecision(2)} %`
  return [
    {
      code: 'zero-loaded',
      message:
        span > 2 * s.holdTolerance
          ? `The load moves by ${ofLargest(span)} of its largest within the zero window: it is no zero.`
          : `On the way up the load falls ${ofLargest(below)} of its largest below the zero window: that was taken ` +
            `under load.`,
    },
  ]
}

/** What the static results are made of. All SI, zeroed. */
interface StaticAnalysis {
  maxLoad: number
  deflectionAtDesign: number | null
  /** Null where too little was read to fit a line. */
  fit: LineFit | null
  nonlinearity: number | null
  /** Means of deflection in the zero windows. */
  zeroStart: number | null
  zeroEnd: number | null
  largestDeflection: number
}

function resultsOf(a: StaticAnalysis, s: StaticSettings): Record<string, Result> {
  const strength: Bound = s.outcome === 'article' ? 'exact' : 'atLeast'
  const exact = (value: number | null, unit: string): Result => ({ value, unit, bound: 'exact' })
  const results: Record<string, Result> = {
    maxLoad: { value: a.maxLoad, unit: 'N', bound: strength },
    ...(s.designLoad === undefined
      ? {}
      : {
          loadFactor: { value: a.maxLoad / s.designLoad, unit: '1', bound: strength },
          deflectionAtDesign: exact(a.deflectionAtDesign, 'm'),
        }),
    stiffness: exact(a.fit?.slope ?? null, 'N/m'),
    nonlinearity: exact(a.nonlinearity, '1'),
  }
  if (s.zeroEnd) {
    const set = a.zeroStart === null || a.zeroEnd === null ? null : a.zeroEnd - a.zeroStart
    results['permanentSet'] = exact(set, 'm')
    results['setRatio'] = exact(set === null || a.largestDeflection === 0 ? null : set / a.largestDeflection, '1')
  }
  return results
}

/** Mean deflection of a window; null where none was read there. */
function zeroOf({ t, channels }: Table, window: readonly [number, number], setting: string): number | null {
  const [from, to] = windowRange(t, window)
  return to <= from ? null : windowStatistics(t, channels['deflection']!, window, setting).mean
}

/** The fitted line between the ends of its window: two deflections, then their loads. */
function lineBetween({ fit, maxLoad }: StaticAnalysis, { stiffnessRange }: StaticSettings): Float64Array {
  const [from, to] = stiffnessRange.map(share => share * maxLoad) as [number, number]
  return Float64Array.of((from - fit!.intercept) / fit!.slope, (to - fit!.intercept) / fit!.slope, from, to)
}

/** Deflection at a load between the means of two steps of the way up; null where no pair of them lies about it. */
function betweenSteps({ columns }: ResultTable, timeAtPeak: number, level: number): number | null {
  const known = columns['start']!.flatMap((start, i) => {
    const [load, deflection] = [columns['loadMean']![i], columns['deflectionMean']?.[i]]
    if ((start as number) > timeAtPeak || typeof load !== 'number' || typeof deflection !== 'number') return []
    return [{ load, deflection }]
  })
  const at = known.findIndex(step => step.load >= level)
  if (at < 1) return null
  const [a, b] = [known[at - 1]!, known[at]!]
  return a.deflection + ((level - a.load) / (b.load - a.load)) * (b.deflection - a.deflection)
}

/** Mean of the deflections at all pairs of rows with the load below, then at or above `level`; null without one. */
function crossingMean(load: Float64Array, deflection: Float64Array, level: number): number | null {
  let [sum, n] = [0, 0]
  for (let i = 1; i < load.length; i++) {
    const [below, above] = [load[i - 1]!, load[i]!]
    if (!(below < level && above >= level)) continue
    sum += deflection[i - 1]! + ((level - below) / (above - below)) * (deflection[i]! - deflection[i - 1]!)
    n++
  }
  return n === 0 ? null : sum / n
}

function stiffnessFit(
  load: Float64Array,
  deflection: Float64Array,
  maxLoad: number,
  { stiffnessRange }: StaticSettings,
  warnings: Warning[],
): Pick<StaticAnalysis, 'fit' | 'nonlinearity'> {
  const [from, to] = stiffnessRange.map(share => share * maxLoad) as [number, number]
  const inside = between(load, load.length - 1, from, to)
  let [x, y] = [picked(deflection, inside), picked(load, inside)]
  const few = inside.length < 3
  if (few) {
    const more = between(load, load.length - 1, NEAR_ZERO * maxLoad, to).filter(i => load[i]! > NEAR_ZERO * maxLoad)
    x = Float64Array.of(0, ...picked(deflection, more))
    y = Float64Array.of(0, ...picked(load, more))
  }
  if (!isSloped(x)) {
    warnings.push(noSlope('No stiffness'))
    return { fit: null, nonlinearity: null }
  }
  if (few)
    warnings.push({
      code: 'few-points',
      message: `Stiffness from ${x.length - 1} rows and the origin: fewer than three lie in its window.`,
    })
  const fit = fitLine(x, y)
  let worst = 0
  for (let i = 0; i < x.length; i++) worst = Math.max(worst, Math.abs(x[i]! - (y[i]! - fit.intercept) / fit.slope))
  return { fit, nonlinearity: worst / Math.abs(x.at(-1)!) }
}

/**
 * How straight each further channel goes with the load on the way up, in the window of the stiffness, and what stays of
 * it: worst first.
 */
function gaugeTable(
  t: Float64Array,
  load: Float64Array,
  channels: Record<string, Float64Array>,
  s: StaticSettings,
): Record<string, ResultTable> {
  if (Object.keys(channels).length < 3) return {}
  const peak = indexOfMax(load)
  const [low, high] = s.stiffnessRange
  const inside = between(load, peak, low * load[peak]!, high * load[peak]!)
  const rows = Object.entries(channels)
    .filter(([role]) => role !== 'load')
    .flatMap(([channel, y]) => {
      const gaps = hasGap(y)
      const read = gaps ? inside.filter(i => !Number.isNaN(y[i]!)) : inside
      if (read.length < 3) return []
      const [x, v] = [picked(load, read), picked(y, read)]
      const { slope, intercept } = fitLine(x, v)
      const most = largestSize(gaps ? y.filter(n => !Number.isNaN(n)) : y)
      let worst = 0
      for (let i = 0; i < x.length; i++) worst = Math.max(worst, Math.abs(v[i]! - intercept - slope * x[i]!))
      const left = s.zeroEnd && isReadIn(t, y, s.zeroEnd) ? windowStatistics(t, y, s.zeroEnd, 'zeroEnd').mean : null
      return [{ channel, nonlinearity: worst / Math.abs(v.at(-1)!), setRatio: left === null ? null : left / most }]
    })
  if (rows.length < 2) return {}
  return {
    gauges: tableOf(
      rows.sort((a, b) => b.nonlinearity - a.nonlinearity),
      { channel: '', nonlinearity: '1', setRatio: '1' },
    ),
  }
}

function isReadIn(t: Float64Array, y: Float64Array, window: [number, number]): boolean {
  const [from, to] = windowRange(t, window)
  return y.subarray(from, to).some(v => !Number.isNaN(v))
}

/** Samples on the way up whose load lies between two. */
function between(load: Float64Array, peak: number, from: number, to: number): Int32Array {
  const rows = new Int32Array(peak + 1)
  let count = 0
  for (let i = 0; i <= peak; i++) if (load[i]! >= from && load[i]! <= to) rows[count++] = i
  return rows.subarray(0, count)
}

function picked(y: Float64Array, rows: Int32Array): Float64Array {
  const values = new Float64Array(rows.length)
  for (let k = 0; k < rows.length; k++) values[k] = y[rows[k]!]!
  return values
}

/** Largest in size, with its sign. */
function furthest(y: Float64Array): number {
  let most = 0
  for (let i = 0; i < y.length; i++) if (Math.abs(y[i]!) > Math.abs(most)) most = y[i]!
  return most
}

const lowest = (y: Float64Array): number => {
  let low = Infinity
  for (let i = 0; i < y.length; i++) if (y[i]! < low) low = y[i]!
  return low
}

function spanOf(y: Float64Array): number {
  let [low, high] = [Infinity, -Infinity]
  for (let i = 0; i < y.length; i++) {
    if (y[i]! < low) low = y[i]!
    if (y[i]! > high) high = y[i]!
  }
  return high - low
}

function gapWarnings(channels: Record<string, Float64Array>): Warning[] {
  return Object.entries(channels).flatMap(([role, y]) => {
    const share = role !== 'load' && hasGap(y) ? y.filter(Number.isNaN).length / y.length : 0
    return share > GAP_SHARE
      ? [{ code: 'gap', message: `${(share * 100).toFixed(1)} % of channel ${role} is missing.` }]
      : []
  })
}

function rangeWarnings({ channels }: Table, { sensors }: ReduceContext): Warning[] {
  return Object.entries(sensors).flatMap(([role, sensor]) => {
    const y = channels[role]
    if (!y) return []
    return checkRange(
      role,
      y.reduce((big, v) => (Math.abs(v) > Math.abs(big) ? v : big), 0),
      sensor.fullScale,
    )
  })
}

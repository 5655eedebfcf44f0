import type { StaticAnalysis } from './analysis'
import { HypometError } from '../../error'
import type { ReduceContext, Table } from '../../method/table'
import { tableOf } from '../../calc/answer'
import type { Bound, Reduction, Result, ResultTable } from '../../method/reduction'
import type { Warning } from '../../warning'
import { hasGap } from '../../signal/gaps'
import { findPlateaus } from '../../signal/plateaus'
import { plateauTable } from '../../method/plateauTable'
import { indexOfMax, largestSize } from '../../signal/rising'
import { windowRange } from '../../signal/window'
import { windowStatistics, zeroed } from '../../signal/zero'
import { fitLine } from '../../statistics/line'
import { checkRange } from '../../uncertainty/sensor'
import type { StaticSettings } from './settings'
import { withUncertainty } from './uncertainty'

const STIFFNESS_FROM = 0.1
const STIFFNESS_TO = 0.6
const GAP_SHARE = 0.01

/**
 * Static reduction: zero, steps, stiffness, deflection at the design load, permanent set, largest load.
 * A test ended by its fixture, or not ended at all, says only that the article carries at least the largest load.
 *
 * @param table  load [N], deflection [m], free channels (gaps NaN), t [s]
 * @throws HypometError `setting-range` for a window without samples, `data-range` with too few samples to fit,
 *         `over-range` beyond a sensor's full scale
 * @source methods.md, “static”
 */
export function reduceStatic(table: Table, s: StaticSettings, context: ReduceContext): Reduction {
  const { t } = table
  const channels = Object.fromEntries(
    Object.entries(table.channels).map(([role, y]) => [role, zeroed(t, y, s.zeroStart)]),
  )
  const [load, deflection] = [channels['load']!, channels['deflection']!]
  const warnings: Warning[] = [...gapWarnings(channels), ...rangeWarnings(table, context)]
  const analysis = analyse(t, load, deflection, s, warnings)
  const plateaus = findPlateaus(t, load, s.holdTolerance, s.minHold)
  if (plateaus.length === 0)
    warnings.push({
      code: 'no-steps',
      message:
        `The load never stood within ±${s.holdTolerance} N for ${s.minHold} s: there are no steps. A wider ` +
        `tolerance or a shorter hold finds them.`,
    })
  return {
    results: withUncertainty(resultsOf(analysis, s), analysis, s, context),
    tables: { steps: plateauTable(t, plateaus, channels, table.units), ...gaugeTable(t, load, channels, s) },
    warnings,
    traces: { t, ...channels, stiffnessLine: lineBetween(analysis) },
  }
}

function analyse(
  t: Float64Array,
  load: Float64Array,
  deflection: Float64Array,
  s: StaticSettings,
  warnings: Warning[],
): StaticAnalysis {
  const peak = indexOfMax(load)
  const maxLoad = load[peak]!
  const deflectionAtDesign = crossing(load, deflection, peak, s.designLoad)
  if (deflectionAtDesign === null)
    warnings.push({
      code: 'design-not-reached',
      message: 'The load did not reach the design load; there is no deflection at it.',
    })
  const { fit, nonlinearity } = stiffnessFit(load, deflection, peak)
  return {
    maxLoad,
    deflectionAtDesign,
    fit,
    nonlinearity,
    zeroStart: zeroOf(t, deflection, s.zeroStart, 'zeroStart'),
    zeroEnd: s.zeroEnd ? zeroOf(t, deflection, s.zeroEnd, 'zeroEnd') : null,
    largestDeflection: furthest(deflection),
    loadNoise: noiseIn(t, load, s.zeroStart),
    deflectionNoise: noiseIn(t, deflection, s.zeroStart),
  }
}

function resultsOf(a: StaticAnalysis, s: StaticSettings): Record<string, Result> {
  const strength: Bound = s.outcome === 'article' ? 'exact' : 'atLeast'
  const exact = (value: number | null, unit: string): Result => ({ value, unit, bound: 'exact' })
  const results: Record<string, Result> = {
    maxLoad: { value: a.maxLoad, unit: 'N', bound: strength },
    loadFactor: { value: a.maxLoad / s.designLoad, unit: '1', bound: strength },
    deflectionAtDesign: exact(a.deflectionAtDesign, 'm'),
    stiffness: exact(a.fit.slope, 'N/m'),
    nonlinearity: exact(a.nonlinearity, '1'),
  }
  if (a.zeroEnd) {
    const set = a.zeroEnd.mean - a.zeroStart.mean
    results['permanentSet'] = exact(set, 'm')
    results['setRatio'] = exact(set / a.largestDeflection, '1')
  }
  return results
}

function zeroOf(
  t: Float64Array,
  y: Float64Array,
  window: [number, number],
  setting: string,
): { mean: number; error: number } {
  const { mean, sd, n } = windowStatistics(t, y, window, setting)
  return { mean, error: n > 1 ? sd / Math.sqrt(n) : 0 }
}

function noiseIn(t: Float64Array, y: Float64Array, window: [number, number]): number {
  const { sd } = windowStatistics(t, y, window)
  return Number.isFinite(sd) ? sd : 0
}

/** The fitted line between the ends of its window: two deflections, then their loads. */
function lineBetween({ fit, maxLoad }: StaticAnalysis): Float64Array {
  const [from, to] = [STIFFNESS_FROM * maxLoad, STIFFNESS_TO * maxLoad]
  return Float64Array.of((from - fit.intercept) / fit.slope, (to - fit.intercept) / fit.slope, from, to)
}

/** Deflection at the first pair of samples on the rising branch with the load below, then at or above `level`. */
function crossing(load: Float64Array, deflection: Float64Array, peak: number, level: number): number | null {
  for (let i = 1; i <= peak; i++) {
    const [below, above] = [load[i - 1]!, load[i]!]
    if (below < level && above >= level)
      return deflection[i - 1]! + ((level - below) / (above - below)) * (deflection[i]! - deflection[i - 1]!)
  }
  return null
}

function stiffnessFit(
  load: Float64Array,
  deflection: Float64Array,
  peak: number,
): Pick<StaticAnalysis, 'fit' | 'nonlinearity'> {
  const [from, to] = [STIFFNESS_FROM * load[peak]!, STIFFNESS_TO * load[peak]!]
  const inside = between(load, peak, from, to)
  if (inside.length < 3)
    throw new HypometError(
      'data-range',
      'Fewer than three samples lie between 10 and 60 % of the largest load; there is no stiffness to fit.',
      { path: 'channels.load' },
    )
  const [x, y] = [picked(deflection, inside), picked(load, inside)]
  const fit = fitLine(x, y)
  let worst = 0
  for (let i = 0; i < x.length; i++) worst = Math.max(worst, Math.abs(x[i]! - (y[i]! - fit.intercept) / fit.slope))
  return { fit: { ...fit, loadSpan: spanOf(y), deflectionSpan: spanOf(x) }, nonlinearity: worst / Math.abs(x.at(-1)!) }
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
  const inside = between(load, peak, STIFFNESS_FROM * load[peak]!, STIFFNESS_TO * load[peak]!)
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
    const share = hasGap(y) ? y.filter(Number.isNaN).length / y.length : 0
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

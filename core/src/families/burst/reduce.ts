import { HypometError } from '../../error'
import { exact, tableOf } from '../../calc/answer'
import { noSlope, rowsWith, zeroedRows } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result, ResultTable } from '../../method/reduction'
import { failureEvent } from '../../signal/failureEvent'
import { indexOfMax, isSloped, largestSize } from '../../signal/rising'
import { windowRange } from '../../signal/window'
import { effectiveCount } from '../../statistics/effectiveCount'
import { fitLine, type LineFit } from '../../statistics/line'
import { meanSd } from '../../statistics/mean'
import { checkRange } from '../../uncertainty/sensor'
import type { Warning } from '../../warning'
import type { BurstSettings } from './settings'

const DROP = { fraction: 0.5, time: 1 }
/** Where no temperature is read, K; and of a standard litre with 101 325 Pa. */
const STANDARD = { temperature: 293.15, pressure: 101_325 }

/**
 * Burst reduction: the largest pressure, its factor over the rated one, line loads at it, and the leak of each hold
 * from the
 * line of absolute pressure over temperature. What did not burst gives lower bounds.
 *
 * @param table  pressure [Pa, gauge], temperature [K, optional], t [s]
 * @throws HypometError `setting-range` for a hold without samples, `over-range`
 * @source methods.md, “burst”
 */
export function reduceBurst(table: Table, s: BurstSettings): Reduction {
  const warnings: Warning[] = []
  const zeroed = zeroedRows(table, ['pressure'], s.zeroStart, warnings)
  const { t, channels } = rowsWith(zeroed, ['pressure'])
  const pressure = channels['pressure']!
  const most = pressure[indexOfMax(pressure)]!
  const bound: Bound = failureEvent(t, pressure, DROP.fraction, DROP.time) ? 'exact' : 'atLeast'
  const bounded = (value: number, unit: string): Result => ({ value, unit, bound })
  const results: Record<string, Result> = {
    burstPressure: bounded(most, 'Pa'),
    burstFactor: bounded(most / s.ratedPressure, '1'),
    margin: bounded(most / s.ratedPressure / s.requiredFactor - 1, '1'),
    hoopLineLoad: bounded(most * s.radius, 'N/m'),
    axialLineLoad: bounded((most * s.radius) / 2, 'N/m'),
  }
  if (s.gaugeFullScale) results['gaugeUtilisation'] = { value: most / s.gaugeFullScale, unit: '1', bound: 'exact' }
  if (s.gaugeFullScale)
    warnings.push(...checkRange('pressure', largestSize(table.channels['pressure']!), s.gaugeFullScale))
  const tables: Record<string, ResultTable> =
    s.holds.length > 0 ? { holds: holdTable(rowsWith(zeroed, ['pressure']), s, warnings) } : {}
  if (s.holds.length > 0) {
    const worst = worstHold(tables)
    results['largestLeak'] = exact(worst ? worst.leak / 3600 / 100 : null, '1/s')
  }
  return {
    results,
    tables,
    warnings,
    traces: { t, pressure, ...(channels['temperature'] ? { temperature: channels['temperature'] } : {}) },
  }
}

/** Absolute pressure over temperature of samples a to before b: what stays while nothing leaks, Pa/K. */
export function statesOf(
  gauge: Float64Array,
  temperature: Float64Array | undefined,
  a: number,
  b: number,
  ambient: number,
): Float64Array {
  const state = new Float64Array(b - a)
  if (temperature) for (let i = a; i < b; i++) state[i - a] = (gauge[i]! + ambient) / temperature[i]!
  else for (let i = a; i < b; i++) state[i - a] = (gauge[i]! + ambient) / STANDARD.temperature
  return state
}

function holdTable(table: Table, s: BurstSettings, warnings: Warning[]): ResultTable {
  const states = rowsWith(table, ['temperature'])
  const rows = s.holds.map(([from, to], i) => {
    const [a, b] = windowRange(table.t, [from, to])
    if (b <= a)
      throw new HypometError('setting-range', `The hold from ${from} to ${to} s holds no sample.`, {
        path: `settings.holds.${i}`,
      })
    const pressure = table.channels['pressure']!.subarray(a, b)
    const decay = lineOver(table.t.subarray(a, b), pressure, from)
    const [c, d] = windowRange(states.t, [from, to])
    const { pressure: gauge, temperature } = states.channels
    const kept = statesOf(gauge!, temperature, c, d, s.ambientPressure)
    const state = lineOver(states.t.subarray(c, d), kept, from)
    if (!state) warnings.push(noSlope(`No leak from ${from} to ${to} s`))
    return {
      start: from,
      end: to,
      n: b - a,
      meanPressure: meanSd(pressure).mean,
      decayRate: decay && -decay.slope,
      leakPercentPerHour: state && (-state.slope / state.intercept) * 3600 * 100,
      leakStandardError: state && (state.slopeError / state.intercept) * 3600 * 100,
      leakReadings: state && effectiveCount(residualsOf(states.t.subarray(c, d), kept, from, state)),
      standardLeak:
        s.volume === undefined || !state ? null : (-s.volume * state.slope * STANDARD.temperature) / STANDARD.pressure,
    }
  })
  return tableOf(rows, {
    start: 's',
    end: 's',
    n: '1',
    meanPressure: 'Pa',
    decayRate: 'Pa/s',
    leakPercentPerHour: '%/h',
    leakStandardError: '%/h',
    leakReadings: '1',
    standardLeak: 'm³/s',
  })
}

const residualsOf = (t: Float64Array, y: Float64Array, from: number, { slope, intercept }: LineFit): Float64Array =>
  y.map((v, i) => v - intercept - slope * (t[i]! - from))

/** The hold that loses most, %/h; null without one that has a slope. */
export function worstHold(tables: Readonly<Record<string, ResultTable>>) {
  const columns = tables['holds']?.columns as Record<string, (number | null)[]> | undefined
  const leaks = columns?.['leakPercentPerHour'] ?? []
  const at = leaks.reduce<number>((m, v, i) => (v !== null && (m < 0 || v > leaks[m]!) ? i : m), -1)
  if (!columns || at < 0) return null
  return {
    leak: leaks[at]!,
    standardError: columns['leakStandardError']![at] ?? NaN,
    readings: columns['leakReadings']![at] ?? NaN,
    n: columns['n']![at]!,
  }
}

/** Line over the time since `from`; null where it has no slope. */
function lineOver(t: Float64Array, y: Float64Array, from: number): LineFit | null {
  const x = t.map(v => v - from)
  return isSloped(x) ? fitLine(x, y) : null
}

import { HypometError } from '../../error'
import { tableOf } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Bound, Reduction, Result, ResultTable } from '../../method/reduction'
import { failureEvent } from '../../signal/failureEvent'
import { indexOfMax, largestSize } from '../../signal/rising'
import { windowRange } from '../../signal/window'
import { zeroed } from '../../signal/zero'
import { fitLine } from '../../statistics/line'
import { meanSd } from '../../statistics/mean'
import { checkRange } from '../../uncertainty/sensor'
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
 * @throws HypometError `setting-range` for a hold with fewer than two samples, `over-range`
 * @source methods.md, “burst”
 */
export function reduceBurst({ t, channels }: Table, s: BurstSettings): Reduction {
  const raw = channels['pressure']!
  const pressure = s.zeroStart ? zeroed(t, raw, s.zeroStart) : raw
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
  const warnings = s.gaugeFullScale ? checkRange('pressure', largestSize(raw), s.gaugeFullScale) : []
  return {
    results,
    tables: s.holds.length > 0 ? { holds: holdTable(t, pressure, channels['temperature'], s) } : {},
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

function since(t: Float64Array, a: number, b: number, from: number): Float64Array {
  const x = new Float64Array(b - a)
  for (let i = a; i < b; i++) x[i - a] = t[i]! - from
  return x
}

function holdTable(
  t: Float64Array,
  pressure: Float64Array,
  temperature: Float64Array | undefined,
  s: BurstSettings,
): ResultTable {
  const rows = s.holds.map(([from, to], i) => {
    const [a, b] = windowRange(t, [from, to])
    if (b - a < 2)
      throw new HypometError('setting-range', `The hold from ${from} to ${to} s holds fewer than two samples.`, {
        path: `settings.holds.${i}`,
      })
    const y = pressure.subarray(a, b)
    const x = since(t, a, b, from)
    const overTemperature = statesOf(pressure, temperature, a, b, s.ambientPressure)
    const line = fitLine(x, overTemperature)
    return {
      start: from,
      end: to,
      n: b - a,
      meanPressure: meanSd(y).mean,
      decayRate: -fitLine(x, y).slope,
      leakPercentPerHour: (-line.slope / line.intercept) * 3600 * 100,
      leakStandardError: (line.slopeError / line.intercept) * 3600 * 100,
      standardLeak: s.volume === undefined ? null : (-s.volume * line.slope * STANDARD.temperature) / STANDARD.pressure,
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
    standardLeak: 'm³/s',
  })
}

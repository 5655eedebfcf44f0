import { HypometError, isHypometError } from '../../error'
import { exact } from '../../calc/answer'
import { rowsWith } from '../../method/rows'
import type { Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { windowRange } from '../../signal/window'
import { decay, exponentialApproach, type Approach } from '../../statistics/exponentialApproach'
import { meanSd } from '../../statistics/mean'
import { coverageFactor } from '../../uncertainty/coverage'
import type { ThermalSettings } from './settings'

/**
 * Thermal reduction: the exponential approach that fits the window, and the power at which it would end at the limit.
 * What the fit leaves open of the steady temperature is its uncertainty, with scatter that hangs together counted as
 * fewer readings; a record that does not bend enough is not read ahead.
 *
 * @param table  temperature [K], power [W, optional]
 * @throws HypometError `data-range` where the window holds too few readings
 * @source methods.md, “thermal”
 */
export function reduceThermal(table: Table, s: ThermalSettings): Reduction {
  const inWindow = (rows: Table, role: string) => {
    const [from, to] = windowRange(rows.t, s.window)
    return [rows.t.subarray(from, to), rows.channels[role]!.subarray(from, to)] as const
  }
  const rows = rowsWith(table, ['temperature'])
  const [time, temperature] = inWindow(rows, 'temperature')
  const fit = approachOf(time, temperature)
  const length = time.at(-1)! - time[0]!
  const residuals = residualsOf(fit, time, temperature)
  const lag = lagOne(residuals)
  const widened = Math.sqrt((1 + lag) / (1 - lag))
  const uncertain = (value: number | null, u: number, unit: string): Result =>
    value !== null && Number.isFinite(u) && u > 0
      ? { value, unit, bound: 'exact', u: u * widened, k: coverageFactor(time.length - 3) }
      : exact(value, unit)
  const isAhead = isReadAhead(fit, length)
  const rise = fit.steady - s.ambient
  const share = !isAhead && rise > 0 ? (s.limit - s.ambient) / rise : null
  // Of a share (limit − ambient)/(T∞ − ambient) the fit moves the divisor alone.
  const uShare = share === null ? NaN : (Math.abs(share) * fit.errors.steady) / rise
  return {
    results: {
      steadyTemperature: uncertain(isAhead ? null : fit.steady, fit.errors.steady, 'K'),
      startTemperature: uncertain(fit.start, fit.errors.start, 'K'),
      timeConstant: uncertain(isAhead ? null : fit.timeConstant, fit.errors.timeConstant, 's'),
      margin: uncertain(share && share - 1, uShare, '1'),
      ...powerResults(table, s, share, uShare, uncertain),
    },
    tables: {},
    warnings: isAhead ? [NO_APPROACH] : warningsOf(fit, s, share, length, residuals),
    traces: { t: rows.t, temperature: rows.channels['temperature']!, ...powerTraces(table) },
  }
}

function powerResults(
  table: Table,
  s: ThermalSettings,
  share: number | null,
  uShare: number,
  uncertain: (value: number | null, u: number, unit: string) => Result,
): Record<string, Result> {
  if (!table.channels['power']) return {}
  const { t, channels } = rowsWith(table, ['power'])
  const [from, to] = windowRange(t, s.window)
  const power = channels['power']!.subarray(from, to)
  if (power.length === 0) return { power: exact(null, 'W'), allowedPower: exact(null, 'W') }
  const { mean } = meanSd(power)
  return { power: exact(mean, 'W'), allowedPower: uncertain(share && mean * share, mean * uShare, 'W') }
}

function powerTraces(table: Table): Record<string, Float64Array> {
  if (!table.channels['power']) return {}
  const { t, channels } = rowsWith(table, ['power'])
  return { powerTime: t, power: channels['power']! }
}

const NO_APPROACH: Warning = {
  code: 'no-approach',
  message:
    'The temperature does not bend towards a steady value within this window: nothing is read ahead from it. ' +
    'Run longer, or choose a window in which it does.',
}

/** Readings that hang together by no more than so much. */
const MOST_LAG = 0.99
/** Times the window, and times what was seen of the rise, that may be read ahead. */
const [AHEAD_IN_TIME, AHEAD_IN_RISE] = [3, 2]

function isReadAhead({ steady, start, timeConstant, errors }: Approach, length: number): boolean {
  const last = steady - (steady - start) * Math.exp(-length / timeConstant)
  return (
    !Number.isFinite(errors.timeConstant) ||
    timeConstant > AHEAD_IN_TIME * length ||
    Math.abs(steady - last) > AHEAD_IN_RISE * Math.abs(last - start)
  )
}

function residualsOf({ steady, start, timeConstant }: Approach, t: Float64Array, y: Float64Array): Float64Array {
  const e = decay(t, timeConstant)
  for (let i = 0; i < e.length; i++) e[i] = y[i]! - steady + (steady - start) * e[i]!
  return e
}

/** Correlation of each residual with the next, from 0 to 0.99. */
function lagOne(e: Float64Array): number {
  let [next, own] = [0, 0]
  for (let i = 0; i < e.length; i++) {
    own += e[i]! ** 2
    if (i > 0) next += e[i - 1]! * e[i]!
  }
  return own > 0 ? Math.min(MOST_LAG, Math.max(0, next / own)) : 0
}

/** Fewest residuals that runs are counted of, and how much of the rise they scatter by at least. */
const [FEWEST_RUNS, LEAST_SCATTER] = [20, 1e-6]
/** Of the standard normal distribution, at one in a hundred. */
const ONE_PERCENT = -2.3263

/** Whether residuals keep their sign for longer than chance would have it. @source Wald & Wolfowitz (1940) */
function isPatterned(residuals: Float64Array, rise: number): boolean {
  let [above, below, runs, last] = [0, 0, 0, 0]
  for (let i = 0; i < residuals.length; i++) {
    const e = residuals[i]!
    if (e === 0) continue
    const sign = e > 0 ? 1 : -1
    if (sign > 0) above++
    else below++
    if (sign !== last) runs++
    last = sign
  }
  const n = above + below
  if (residuals.length < FEWEST_RUNS || n < FEWEST_RUNS) return false
  if (meanSd(residuals).sd < LEAST_SCATTER * Math.abs(rise)) return false
  const twice = 2 * above * below
  const mean = twice / n + 1
  const variance = (twice * (twice - n)) / (n * n * (n - 1))
  return (runs - mean) / Math.sqrt(variance) < ONE_PERCENT
}

function approachOf(t: Float64Array, temperature: Float64Array): Approach {
  try {
    return exponentialApproach(t, temperature)
  } catch (e) {
    if (isHypometError(e))
      throw new HypometError(
        'data-range',
        `${e.message} Choose a window in which the temperature approaches its steady value.`,
        { path: 'settings.window' },
      )
    throw e
  }
}

function warningsOf(
  fit: Approach,
  s: ThermalSettings,
  share: number | null,
  length: number,
  residuals: Float64Array,
): Warning[] {
  const list: Warning[] = []
  if (isPatterned(residuals, fit.steady - fit.start))
    list.push({
      code: 'not-single',
      message:
        'The temperature does not follow a single time constant: its readings keep to one side of the curve for too ' +
        'long. The steady temperature may be off by more than its uncertainty.',
    })
  if (length < fit.timeConstant)
    list.push({
      code: 'short-window',
      message:
        `The window is shorter than the time constant of ${fit.timeConstant.toPrecision(3)} s: the steady ` +
        `temperature is read far ahead.`,
    })
  if (fit.steady > s.limit)
    list.push({ code: 'limit-exceeded', message: 'It would settle above its limit: derate it, or cool it better.' })
  if (share === null)
    list.push({ code: 'no-rise', message: 'It does not settle above the ambient: no power follows from that.' })
  return list
}

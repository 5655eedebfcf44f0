import { HypometError, isHypometError } from '../../error'
import { exact } from '../../calc/answer'
import type { Table } from '../../method/table'
import type { Reduction, Result } from '../../method/reduction'
import type { Warning } from '../../warning'
import { windowRange } from '../../signal/window'
import { exponentialApproach, type Approach } from '../../statistics/exponentialApproach'
import { coverageFactor } from '../../uncertainty/coverage'
import type { ThermalSettings } from './settings'

/**
 * Thermal reduction: the exponential approach that fits the window, and the power at which it would end at the limit.
 * What
 * the fit leaves open of the steady temperature is its uncertainty, also while it still climbs.
 *
 * @param table  temperature [K], power [W, optional]
 * @throws HypometError `data-range` where the window holds too little, or nothing that approaches anything
 * @source methods.md, “thermal”
 */
export function reduceThermal({ t, channels }: Table, s: ThermalSettings): Reduction {
  const [from, to] = windowRange(t, s.window)
  const [time, temperature] = [t.subarray(from, to), channels['temperature']!.subarray(from, to)]
  const fit = approachOf(time, temperature)
  const rise = fit.steady - s.ambient
  const share = rise > 0 ? (s.limit - s.ambient) / rise : null
  const power = channels['power'] ? channels['power'].subarray(from, to) : null
  const mean = power ? power.reduce((a, b) => a + b, 0) / power.length : null
  const uncertain = (value: number, u: number, unit: string): Result =>
    Number.isFinite(u) && u > 0
      ? { value, unit, bound: 'exact', u, k: coverageFactor(time.length - 3) }
      : exact(value, unit)
  // Of a share (limit − ambient)/(T∞ − ambient) the fit moves the divisor alone.
  const uShare = share === null ? NaN : (Math.abs(share) * fit.errors.steady) / rise
  return {
    results: {
      steadyTemperature: uncertain(fit.steady, fit.errors.steady, 'K'),
      startTemperature: uncertain(fit.start, fit.errors.start, 'K'),
      timeConstant: uncertain(fit.timeConstant, fit.errors.timeConstant, 's'),
      margin: share === null ? exact(null, '1') : uncertain(share - 1, uShare, '1'),
      ...(mean === null
        ? {}
        : {
            power: exact(mean, 'W'),
            allowedPower: share === null ? exact(null, 'W') : uncertain(mean * share, mean * uShare, 'W'),
          }),
    },
    tables: {},
    warnings: warningsOf(fit, s, share),
    traces: { t, temperature: channels['temperature']!, ...(channels['power'] ? { power: channels['power'] } : {}) },
  }
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

function warningsOf(fit: Approach, s: ThermalSettings, share: number | null): Warning[] {
  const list: Warning[] = []
  if (s.window[1] - s.window[0] < fit.timeConstant)
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

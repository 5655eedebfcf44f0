import { HypometError } from '../error'
import type { Warning } from '../warning'
import type { Contribution } from './coverage'

/** What a data sheet and a certificate say of a sensor; all in the SI unit of what it measures. */
export interface SensorSpecification {
  fullScale: number
  /** Expanded uncertainty of the calibration and its coverage factor. */
  certificate?: { U: number; k: number } | undefined
  /** ± share of full scale. */
  linearity?: number | undefined
  hysteresis?: number | undefined
  repeatability?: number | undefined
  resolution?: number | undefined
  /** Share of full scale, and of the reading, per kelvin. */
  temperatureZero?: number | undefined
  temperatureSpan?: number | undefined
  deltaT?: number | undefined
  converter?: { range: number; bits: number } | undefined
}

/** Parts of a budget that stay when two readings of the same sensor are taken from one another near zero. */
export const ZERO_DIFFERENCE_ITEMS: readonly string[] = [
  'hysteresis',
  'repeatability',
  'resolution',
  'temperatureZero',
  'converter',
]

const RECTANGULAR = Math.sqrt(3)

/**
 * Type B budget of one reading: the certificate's U/k; ± terms as rectangular halves /√3; resolution and converter
 * steps as rectangular widths /(2√3).
 *
 * @source JCGM 100:2008 (GUM), 4.3
 */
export function sensorBudget(s: SensorSpecification, reading: number): Contribution[] {
  const deltaT = Math.abs(s.deltaT ?? 0)
  const items: [string, number | undefined][] = [
    ['certificate', s.certificate && s.certificate.U / s.certificate.k],
    ['linearity', s.linearity && (s.linearity * s.fullScale) / RECTANGULAR],
    ['hysteresis', s.hysteresis && (s.hysteresis * s.fullScale) / RECTANGULAR],
    ['repeatability', s.repeatability && (s.repeatability * s.fullScale) / RECTANGULAR],
    ['resolution', s.resolution && s.resolution / (2 * RECTANGULAR)],
    ['temperatureZero', s.temperatureZero && (s.temperatureZero * deltaT * s.fullScale) / RECTANGULAR],
    ['temperatureSpan', s.temperatureSpan && (s.temperatureSpan * deltaT * Math.abs(reading)) / RECTANGULAR],
    ['converter', s.converter && s.converter.range / 2 ** s.converter.bits / (2 * RECTANGULAR)],
  ]
  return items.flatMap(([name, u]) => (u ? [{ name, contribution: Math.abs(u), dof: Infinity }] : []))
}

export type RangeState = 'fits' | 'low-range' | 'near-full-scale' | 'over-range'

/** Peak reading against full scale: below a fifth is low, above nine tenths is near, above one is over range. */
export function rangeState(peak: number, fullScale: number): { utilisation: number; state: RangeState } {
  const utilisation = Math.abs(peak) / fullScale
  const state =
    utilisation > 1 ? 'over-range' : utilisation > 0.9 ? 'near-full-scale' : utilisation < 0.2 ? 'low-range' : 'fits'
  return { utilisation, state }
}

/**
 * The range check of a reduction: a warning, or for a reading beyond full scale an error. @throws HypometError
 * `over-range`
 */
export function checkRange(role: string, peak: number, fullScale: number): Warning[] {
  const { utilisation, state } = rangeState(peak, fullScale)
  const share = `${(utilisation * 100).toFixed(0)} % of its full scale`
  if (state === 'over-range')
    throw new HypometError('over-range', `The reading of ${role} is beyond the sensor's full scale (${share}).`, {
      path: `channels.${role}`,
    })
  if (state === 'low-range')
    return [{ code: state, message: `${role} used only ${share}: the sensor is large for this reading.` }]
  return state === 'near-full-scale' ? [{ code: state, message: `${role} reached ${share}.` }] : []
}

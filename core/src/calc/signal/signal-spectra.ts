import * as z from 'zod'
import { HypometError } from '../../error'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { siUnit } from '../../quantity/index'
import { evenInterval } from '../../signal/evenTime'
import { octaveSteps, shockResponse } from '../../signal/shockResponse'
import { welch } from '../../signal/welch'
import { SIGNAL_ROLES } from './signal-filter'

const frequency = quantity('frequency', { positive: true })

export const frequencyBand = z.tuple([quantity('frequency', { min: 0 }), frequency]).superRefine(([from, to], ctx) => {
  if (from >= to) issue(ctx, 'setting-range', 'A band must end after it begins.')
})

/** Whether a bin lies in the band, both ends inside; rounding of the bins' frequencies is forgiven. */
export const isInBand = (f: number, band: readonly [number, number] | undefined): boolean =>
  !band || (f >= band[0] * (1 - 1e-9) && f <= band[1] * (1 + 1e-9))

/** Power spectral density by Welch. */
export const signalWelch = defineCalc({
  id: 'signal-welch',
  example: { nperseg: 256 },
  title: 'Power spectral density',
  purpose: 'Welch’s averaged, one-sided density, and the rms in a band',
  version: '1.0.0',
  roles: SIGNAL_ROLES,
  timeBase: 'even',
  settings: z.object({
    nperseg: plain({ title: 'Samples a segment', min: 2, whole: true }),
    band: frequencyBand.optional().meta({ title: 'Band, from and to' }),
  }),
  calculate({ nperseg, band }, { t, channels, units }) {
    const x = channels['signal']!
    if (nperseg > x.length)
      throw new HypometError(
        'data-range',
        `A segment of ${nperseg} samples is longer than the record of ${x.length}.`,
        { path: 'settings.nperseg' },
      )
    const { frequency, density, segments } = welch(x, 1 / evenInterval(t), nperseg)
    const inside = Array.from(frequency.keys()).filter(k => isInBand(frequency[k]!, band))
    if (inside.length === 0)
      throw new HypometError('setting-range', 'No frequency of the spectrum lies in the band.', {
        path: 'settings.band',
      })
    const peak = inside.reduce((best, k) => (density[k]! > density[best]! ? k : best), inside[0]!)
    const power = inside.reduce((sum, k) => sum + density[k]!, 0) * (frequency[1]! - frequency[0]!)
    return {
      results: {
        rms: { value: Math.sqrt(power), unit: units['signal']!, bound: 'exact' },
        peakFrequency: { value: frequency[peak]!, unit: 'Hz', bound: 'exact' },
        segments: { value: segments, unit: '1', bound: 'exact' },
      },
      tables: {
        density: {
          columns: { frequency: Array.from(frequency), density: Array.from(density) },
          units: { frequency: 'Hz', density: densityUnit(units['signal']!) },
        },
      },
      warnings: [],
    }
  },
})

/** SI unit of a channel's square per hertz. */
const densityUnit = (unit: string): string =>
  unit === 'm/s²' ? siUnit('accelerationDensity') : /[·/]/.test(unit) ? `(${unit})²/Hz` : `${unit}²/Hz`

/** Shock response spectrum. */
export const signalShockResponse = defineCalc({
  id: 'signal-srs',
  example: { fMin: { value: 10, unit: 'Hz' }, fMax: { value: 2, unit: 'kHz' } },
  title: 'Shock response spectrum',
  purpose: 'Largest response of oscillators on the moving base',
  version: '1.0.0',
  roles: { t: SIGNAL_ROLES.t, signal: { label: 'Base acceleration', kind: 'acceleration' } },
  timeBase: 'even',
  settings: z
    .object({
      q: plain({ title: 'Q', positive: true }).default(10),
      fMin: quantity('frequency', { title: 'From', positive: true }),
      fMax: quantity('frequency', { title: 'To', positive: true }),
      perOctave: plain({ title: 'Steps an octave', positive: true, whole: true }).default(12),
    })
    .superRefine((s, ctx) => {
      if (s.fMin > s.fMax) issue(ctx, 'setting-range', 'The spectrum must end after it begins.', ['fMax'])
      if (s.q <= 0.5) issue(ctx, 'setting-range', 'Q lies above 0.5: below it nothing oscillates.', ['q'])
    }),
  calculate({ q, fMin, fMax, perOctave }, { t, channels }) {
    const frequency = octaveSteps(fMin, fMax, perOctave)
    const acceleration = shockResponse(channels['signal']!, evenInterval(t), frequency, q)
    const peak = acceleration.reduce((best, a, i) => (a > acceleration[best]! ? i : best), 0)
    return {
      results: {
        peak: { value: acceleration[peak]!, unit: 'm/s²', bound: 'exact' },
        peakFrequency: { value: frequency[peak]!, unit: 'Hz', bound: 'exact' },
      },
      tables: {
        srs: {
          columns: { frequency: Array.from(frequency), acceleration: Array.from(acceleration) },
          units: { frequency: 'Hz', acceleration: 'm/s²' },
        },
      },
      warnings: [],
    }
  },
})

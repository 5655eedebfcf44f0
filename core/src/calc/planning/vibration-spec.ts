import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { issue, plain, quantity } from '../../method/settings'
import { exact, given } from '../answer'

const specification = z
  .object({
    breakpoints: z
      .array(
        z.object({
          frequency: quantity('frequency', { title: 'Frequency', positive: true }),
          density: quantity('accelerationDensity', { title: 'Density', positive: true }),
        }),
      )
      .min(2)
      .meta({ title: 'Breakpoints' }),
    frequency: quantity('frequency', { title: 'Mode at', positive: true }).optional(),
    q: plain({ title: 'Amplification Q', positive: true }).default(10),
    mass: quantity('mass', { title: 'Mass', positive: true }).optional(),
    forceLimit: quantity('force', { title: 'Force limit', positive: true }).optional(),
  })
  .superRefine((s, ctx) => {
    s.breakpoints.forEach((b, i) => {
      if (i > 0 && !(b.frequency > s.breakpoints[i - 1]!.frequency))
        issue(ctx, 'setting-range', 'Breakpoints must rise in frequency.', ['breakpoints', i, 'frequency'])
    })
    if (
      s.frequency !== undefined &&
      (s.frequency < s.breakpoints[0]!.frequency || s.frequency > s.breakpoints.at(-1)!.frequency)
    )
      issue(ctx, 'setting-range', 'The mode lies outside the specification.', ['frequency'])
  })

export type Breakpoint = { frequency: number; density: number }

const exponent = (a: Breakpoint, b: Breakpoint): number =>
  Math.log(b.density / a.density) / Math.log(b.frequency / a.frequency)

/** Area under a straight piece in logarithms. */
export function area(a: Breakpoint, b: Breakpoint): number {
  const n = exponent(a, b)
  const ratio = b.frequency / a.frequency
  return Math.abs(n + 1) < 1e-12
    ? a.density * a.frequency * Math.log(ratio)
    : ((a.density * a.frequency) / (n + 1)) * (ratio ** (n + 1) - 1)
}

/** Density at a frequency, straight between breakpoints in logarithms; null outside them. */
export function densityAt(points: readonly Breakpoint[], f: number): number | null {
  if (f < points[0]!.frequency || f > points.at(-1)!.frequency) return null
  const i = Math.max(
    1,
    points.findIndex(p => f <= p.frequency),
  )
  const [a, b] = [points[i - 1]!, points[i]!]
  return a.density * (f / a.frequency) ** exponent(a, b)
}

/**
 * A random-vibration specification: its rms, the response of a single mode, and the notch that keeps its force to a
 * limit.
 *
 * @source Miles (1954), response √(π/2·f·Q·W); force limiting as in NASA-HDBK-7004
 */
export const vibrationSpec = defineCalc({
  id: 'vibration-spec',
  title: 'Random vibration specification',
  purpose: 'Rms of a specification, response of a mode, notch to a force limit',
  version: '1.0.0',
  settings: specification,
  example: {
    breakpoints: [
      { frequency: 20, density: { value: 0.01, unit: 'g²/Hz' } },
      { frequency: 80, density: { value: 0.04, unit: 'g²/Hz' } },
      { frequency: 500, density: { value: 0.04, unit: 'g²/Hz' } },
      { frequency: 2000, density: { value: 0.01, unit: 'g²/Hz' } },
    ],
    frequency: 145,
    q: 12,
    mass: 3.4,
    forceLimit: 900,
  },
  calculate({ breakpoints, frequency, q, mass, forceLimit }) {
    const rms = Math.sqrt(breakpoints.slice(1).reduce((s, b, i) => s + area(breakpoints[i]!, b), 0))
    const density = frequency === undefined ? null : densityAt(breakpoints, frequency)
    const response = density === null ? null : Math.sqrt((Math.PI / 2) * frequency! * q * density)
    const force = response === null || mass === undefined ? null : 3 * mass * response
    const share = force === null || forceLimit === undefined ? null : Math.min(1, (forceLimit / force) ** 2)
    const maybe = (v: number | null, unit: string) => (v === null ? null : exact(v, unit))
    return {
      results: given({
        rms: exact(rms, 'm/s²'),
        threeSigma: exact(3 * rms, 'm/s²'),
        densityAtFrequency: maybe(density, 'm²/s³'),
        response: maybe(response, 'm/s²'),
        responseThreeSigma: maybe(response === null ? null : 3 * response, 'm/s²'),
        forceThreeSigma: maybe(force, 'N'),
        notchDensity: maybe(share === null ? null : density! * share, 'm²/s³'),
        notchDepth: maybe(share === null ? null : 10 * Math.log10(share), 'dB'),
      }),
      tables: {},
      warnings: [],
    }
  },
})

const sweepSettings = z
  .object({
    frequency: quantity('frequency', { title: 'Mode at', positive: true }),
    q: plain({ title: 'Amplification Q', positive: true, min: 0.5000001 }),
    rate: quantity('sweepRate', { title: 'Sweep rate, octaves', positive: true }).optional(),
    band: z
      .tuple([quantity('frequency', { positive: true }), quantity('frequency', { positive: true })])
      .optional()
      .meta({ title: 'Band' }),
  })
  .superRefine((s, ctx) => {
    if (s.band && !(s.band[1] > s.band[0]))
      issue(ctx, 'setting-range', 'The band must end above where it begins.', ['band'])
  })

/**
 * The fastest sweep that still lets a mode ring up, and how long the sweep stays in its half-power band.
 *
 * @source ISO 7626-2: sweep rate at most 77.6·f/Q² octaves a minute
 */
export const sweepRate = defineCalc({
  id: 'sweep-rate',
  title: 'Sweep rate',
  purpose: 'How fast a sine sweep may pass a mode',
  version: '1.0.0',
  settings: sweepSettings,
  example: { frequency: 38, q: 25, rate: { value: 2, unit: 'oct/min' }, band: [5, 200] },
  calculate({ frequency, q, rate, band }) {
    const maxRate = (77.6 * frequency) / q ** 2 / 60
    return {
      results: given({
        maxRate: exact(maxRate, '1/s'),
        timeInBand: rate === undefined ? null : exact(Math.log2((2 * q + 1) / (2 * q - 1)) / rate, 's'),
        sweepTime: rate === undefined || !band ? null : exact(Math.log2(band[1] / band[0]) / rate, 's'),
      }),
      tables: {},
      warnings:
        rate !== undefined && rate > maxRate
          ? [
              {
                code: 'sweep-too-fast',
                message: 'The sweep passes the mode before it has rung up: its peak will be missed.',
              },
            ]
          : [],
    }
  },
})

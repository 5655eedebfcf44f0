import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import type { Warning } from '../../warning'
import { issue, plain, quantity } from '../../method/settings'
import { exact, tableOf } from '../answer'

const size = (title: string) => quantity('length', { title, positive: true })

const settings = z
  .object({
    frequency: quantity('frequency', { title: 'Frequency', positive: true }),
    cycles: plain({ title: 'Cycles of the pulse', positive: true }).default(10),
    quality: plain({ title: 'Quality factor', positive: true }).default(5),
    soundSpeed: quantity('velocity', { title: 'Speed of sound', positive: true }).default(1480),
    aperture: size('Largest size of the face'),
    length: size('Tank, along'),
    width: size('Tank, across'),
    depth: size('Depth of the water'),
    distance: size('Between them'),
    immersion: size('Both under water by').optional(),
  })
  .superRefine((s, ctx) => {
    if (s.distance >= s.length)
      issue(ctx, 'setting-range', 'They are farther apart than the tank is long.', ['distance'])
    if (s.immersion !== undefined && s.immersion >= s.depth)
      issue(ctx, 'setting-range', 'They lie below the floor.', ['immersion'])
  })

/**
 * A pattern or a response in a tank: when the first echo comes, what window is left once the pulse has settled, and
 * from
 * where on the field is that of a far source. Both hang in the middle of the tank, along its length.
 *
 * @source image sources for the echoes; far field from πD²/(4λ), Kinsler et al., Fundamentals of Acoustics, ch. 7
 */
export const tankPlan = defineCalc({
  id: 'tank-plan',
  title: 'Tank',
  purpose: 'First echo, usable window and far field of a measurement in a tank',
  version: '1.0.0',
  settings,
  example: {
    frequency: { value: 40, unit: 'kHz' },
    cycles: 16,
    quality: 5,
    aperture: { value: 90, unit: 'mm' },
    length: 4,
    width: 2.5,
    depth: 2.2,
    distance: 1,
  },
  labels: {
    wavelength: 'Wavelength',
    farField: 'Far field from',
    firstEcho: 'First echo after the direct pulse',
    pulse: 'Pulse',
    settled: 'Settled after',
    window: 'Window left',
    lowestFrequency: 'Lowest frequency whose pulse fits',
    directTime: 'Direct pulse arrives after',
  },
  calculate(s) {
    const c = s.soundSpeed
    const wavelength = c / s.frequency
    const farField = (Math.PI * s.aperture ** 2) / (4 * wavelength)
    const under = s.immersion ?? s.depth / 2
    const end = (s.length - s.distance) / 2
    const across = (off: number) => Math.hypot(s.distance, 2 * off)
    const echoes = [
      { off: 'surface', path: across(under) },
      { off: 'floor', path: across(s.depth - under) },
      { off: 'side walls', path: across(s.width / 2) },
      { off: 'end wall behind the receiver', path: s.distance + 2 * end },
    ]
      .map(e => ({ ...e, delay: (e.path - s.distance) / c, level: -20 * Math.log10(e.path / s.distance) }))
      .sort((a, b) => a.delay - b.delay)
    const firstEcho = echoes[0]!.delay
    const [pulse, settled] = [s.cycles / s.frequency, s.quality / s.frequency]
    const window = Math.min(firstEcho, pulse) - settled
    const warnings: Warning[] = [
      ...(s.distance < farField
        ? [
            {
              code: 'near-field',
              message:
                `They are nearer than the far field of ${farField.toPrecision(3)} m: levels do not fall ` +
                `as 1/r there.`,
            },
          ]
        : []),
      ...(window <= 0
        ? [
            {
              code: 'no-window',
              message:
                'The first echo, or the pulse’s end, comes before the transducer has settled: nothing steady is ' +
                'left to read.',
            },
          ]
        : []),
      ...(firstEcho < pulse
        ? [
            {
              code: 'echo-in-pulse',
              message: 'The first echo comes while the pulse still lasts: shorten it, or read before.',
            },
          ]
        : []),
    ]
    return {
      results: {
        wavelength: exact(wavelength, 'm'),
        farField: exact(farField, 'm'),
        directTime: exact(s.distance / c, 's'),
        firstEcho: exact(firstEcho, 's'),
        pulse: exact(pulse, 's'),
        settled: exact(settled, 's'),
        window: exact(Math.max(0, window), 's'),
        lowestFrequency: exact(s.cycles / firstEcho, 'Hz'),
      },
      tables: { echoes: tableOf(echoes, { off: '', path: 'm', delay: 's', level: 'dB' }) },
      warnings,
    }
  },
})

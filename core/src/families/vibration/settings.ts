import { issue, plain, quantity } from '../../method/settings'
import * as z from 'zod'

export const hertz = quantity('frequency', { min: 0 })

export const positiveHertz = (title: string) => quantity('frequency', { title, positive: true })

export const settings = z
  .object({
    nperseg: plain({ title: 'Samples a segment', min: 8, whole: true }),
    band: z.tuple([hertz, hertz]).meta({ title: 'Band', kind: 'frequency' }),
    prominence: plain({ title: 'A mode stands out by', positive: true, max: 1 }).default(0.2),
    minFrequency: positiveHertz('First mode not below').optional(),
    before: z
      .array(z.object({ frequency: positiveHertz('Frequency'), damping: plain({ title: 'Damping', min: 0, max: 1 }) }))
      .optional()
      .meta({ title: 'Modes before' }),
    largestShift: plain({ title: 'A mode is as before within', positive: true, max: 1 }).default(0.05),
    specification: z
      .array(
        z.object({
          frequency: positiveHertz('Frequency'),
          density: quantity('accelerationDensity', { title: 'Density', positive: true }),
        }),
      )
      .min(2)
      .optional()
      .meta({ title: 'Specified level' }),
    tolerance: quantity('level', { title: 'Tolerance of the level', positive: true }).default(3),
    points: z
      .array(
        z.object({
          channel: z.string().meta({ title: 'Channel' }),
          x: quantity('length', { title: 'x' }),
          y: quantity('length', { title: 'y' }),
        }),
      )
      .optional()
      .meta({ title: 'Where the responses are' }),
    shapes: z
      .array(
        z.object({
          frequency: positiveHertz('Predicted frequency').optional(),
          values: z.array(plain()).meta({ title: 'Shape, a value each response' }),
        }),
      )
      .optional()
      .meta({ title: 'Shapes of the model' }),
  })
  .transform((s, ctx) =>
    s.band[0] < s.band[1] ? s : issue(ctx, 'setting-range', 'A band must end above where it begins.', ['band']),
  )

export type VibrationSettings = z.output<typeof settings>

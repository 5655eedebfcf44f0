import * as z from 'zod'
import { issue, plain, quantity, timeWindow } from '../../method/settings'

export const OUTCOMES = ['no-failure', 'article', 'fixture'] as const
export type Outcome = (typeof OUTCOMES)[number]

/** Fewer rows than that were read by people, rung by rung. */
export const CALLED_OUT = 30

const share = plain({ min: 0, max: 1 })

export const staticSettings = z
  .object({
    zeroStart: timeWindow('Zero at the start'),
    zeroEnd: timeWindow('Zero at the end').optional(),
    /** Without it nothing is said at it. */
    designLoad: quantity('force', { title: 'Design load', positive: true }).optional(),
    minHold: quantity('time', { title: 'Shortest hold', positive: true }).default(10),
    holdTolerance: quantity('force', { title: 'Hold tolerance', positive: true }),
    stiffnessRange: z
      .tuple([share, share])
      .default([0.1, 0.6])
      .meta({ title: 'Stiffness between, of the largest load', kind: 'ratio' }),
    outcome: z.enum(OUTCOMES).default('no-failure').meta({ title: 'What ended the test' }),
  })
  .transform((s, ctx) =>
    s.stiffnessRange[0] < s.stiffnessRange[1]
      ? s
      : issue(ctx, 'setting-range', 'A range must end above where it begins.', ['stiffnessRange']),
  )

export type StaticSettings = z.output<typeof staticSettings>
export type StaticSettingsInput = z.input<typeof staticSettings>

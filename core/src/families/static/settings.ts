import * as z from 'zod'
import { quantity, timeWindow } from '../../method/settings'

export const OUTCOMES = ['no-failure', 'article', 'fixture'] as const
export type Outcome = (typeof OUTCOMES)[number]

export const staticSettings = z.object({
  zeroStart: timeWindow('Zero at the start'),
  zeroEnd: timeWindow('Zero at the end').optional(),
  designLoad: quantity('force', { title: 'Design load', positive: true }),
  minHold: quantity('time', { title: 'Shortest hold', positive: true }).default(10),
  holdTolerance: quantity('force', { title: 'Hold tolerance', positive: true }),
  outcome: z.enum(OUTCOMES).default('no-failure').meta({ title: 'What ended the test' }),
})

export type StaticSettings = z.output<typeof staticSettings>
export type StaticSettingsInput = z.input<typeof staticSettings>

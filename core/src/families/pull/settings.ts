import { plain, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const settings = z.object({
  /** Without it nothing is said of what is retained. */
  referenceStrength: quantity('force', { title: 'Strength when new', positive: true }).optional(),
  gaugeFullScale: quantity('force', { title: 'Full scale of the gauge', positive: true }).optional(),
  gaugeAccuracy: plain({ title: 'Accuracy of the gauge, of full scale', positive: true, max: 1 }).optional(),
  dropFraction: plain({ title: 'A break falls by', positive: true, max: 1 }).default(0.5),
  dropTime: quantity('time', { title: 'Within', positive: true }).default(0.5),
  zeroStart: timeWindow('Zero at the start').optional(),
  callouts: z
    .array(
      z.object({
        force: quantity('force', { title: 'Called out', min: 0 }),
        t: quantity('time', { title: 'At' }).optional(),
      }),
    )
    .min(1)
    .meta({ title: 'Call-outs' })
    .optional(),
  increment: quantity('force', { title: 'Next increment', positive: true }).optional(),
  recordedPeak: quantity('force', { title: 'Peak as recorded', positive: true }).optional(),
  outcome: z.enum(['broke', 'no-failure']).default('broke').meta({ title: 'What ended the test' }),
})

export type PullSettings = z.output<typeof settings>

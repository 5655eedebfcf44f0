import { issue, plain, quantity } from '../../method/settings'
import * as z from 'zod'

export const lift = quantity('length', { title: 'Lift', min: 0 })

export const settings = z
  .object({
    kind: z.enum(['bench', 'map']).default('bench').meta({ title: 'What was read' }),
    referenceDrop: quantity('pressure', { title: 'Reference pressure difference', positive: true }).optional(),
    valveDiameter: quantity('length', { title: 'Valve diameter', positive: true }).optional(),
    valves: plain({ title: 'Valves', positive: true, whole: true }).default(1),
    liftRange: z.tuple([lift, lift]).optional().meta({ title: 'Range of lifts', kind: 'length' }),
    benchRange: quantity('volumeFlow', {
      title: 'Range of the bench, where it reads shares',
      positive: true,
    }).optional(),
    baseline: z.string().optional().meta({ title: 'Baseline' }),
    subject: z.string().optional().meta({ title: 'Compared' }),
  })
  .transform((s, ctx) => {
    if (s.kind === 'map') return s
    if (s.referenceDrop === undefined)
      issue(ctx, 'missing-setting', 'Corrected flows need a reference pressure difference.', ['referenceDrop'])
    if (s.liftRange === undefined) issue(ctx, 'missing-setting', 'A mean flow needs a range of lifts.', ['liftRange'])
    else if (!(s.liftRange[0] < s.liftRange[1]))
      issue(ctx, 'setting-range', 'A range must end above where it begins.', ['liftRange'])
    return s
  })

export type FlowSettings = z.output<typeof settings>

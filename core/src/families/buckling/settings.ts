import { issue, plain, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const share = plain({ positive: true, max: 1 })

export const settings = z
  .object({
    radius: quantity('length', { title: 'Radius', positive: true }),
    thickness: quantity('length', { title: 'Wall', positive: true }),
    modulus: quantity('pressure', { title: 'Modulus', positive: true }),
    poisson: plain({ title: 'Poisson’s ratio', min: 0 }),
    length: quantity('length', { title: 'Length', positive: true }).optional(),
    density: quantity('density', { title: 'Density', positive: true }).optional(),
    designFactor: plain({ title: 'Design factor from imperfections or tests', positive: true }).optional(),
    southwellRange: z
      .tuple([share, share])
      .default([0.6, 0.95])
      .meta({ title: 'Line of growth, share of the peak', kind: 'ratio' }),
    ring: z
      .array(z.object({ channel: z.string().meta({ title: 'Channel' }), angle: quantity('angle', { title: 'At' }) }))
      .optional()
      .meta({ title: 'Ring of gauges' }),
    zeroStart: timeWindow('Zero at the start').optional(),
  })
  .transform((s, ctx) => {
    if (!(s.poisson < 0.5)) issue(ctx, 'setting-range', 'Poisson’s ratio lies below one half.', ['poisson'])
    if (!(s.southwellRange[0] < s.southwellRange[1]))
      issue(ctx, 'setting-range', 'A range must end above where it begins.', ['southwellRange'])
    return s
  })

export type BucklingSettings = z.output<typeof settings>

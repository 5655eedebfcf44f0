import { issue, plain, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const share = plain({ positive: true, max: 1 })

export const settings = z
  .object({
    radius: quantity('length', { title: 'Radius', positive: true }),
    thickness: quantity('length', { title: 'Wall', positive: true }).optional(),
    modulus: quantity('pressure', { title: 'Modulus', positive: true }).optional(),
    poisson: plain({ title: 'Poisson’s ratio', min: 0 }).optional(),
    perfectLineLoad: quantity('loadPerLength', { title: 'Line load of the perfect wall', positive: true }).optional(),
    equivalentThickness: quantity('length', { title: 'Its equivalent thickness', positive: true }).optional(),
    length: quantity('length', { title: 'Length', positive: true }).optional(),
    density: quantity('density', { title: 'Density', positive: true }).optional(),
    designFactor: plain({ title: 'Design factor from imperfections or tests', positive: true }).optional(),
    expectsMoment: z.boolean().default(false).meta({ title: 'A moment acts too' }),
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
    if (s.perfectLineLoad === undefined)
      for (const key of ['thickness', 'modulus', 'poisson'] as const)
        if (s[key] === undefined)
          issue(
            ctx,
            'missing-setting',
            'A perfect shell is told by wall, modulus and Poisson’s ratio, or by its line load.',
            [key],
          )
    if (s.poisson !== undefined && !(s.poisson < 0.5))
      issue(ctx, 'setting-range', 'Poisson’s ratio lies below one half.', ['poisson'])
    if (!(s.southwellRange[0] < s.southwellRange[1]))
      issue(ctx, 'setting-range', 'A range must end above where it begins.', ['southwellRange'])
    return s
  })

export type BucklingSettings = z.output<typeof settings>

import { plain, quantity, timeWindow } from '../../method/settings'
import { HEIGHT_FROM } from './plan'
import * as z from 'zod'

export const settings = z.object({
  mass: quantity('mass', { title: 'Mass', positive: true }),
  referenceArea: quantity('area', { title: 'Reference area', positive: true }),
  steadyWindow: timeWindow('Steady descent'),
  temperature: quantity('temperature', { title: 'Temperature at altitude 0', positive: true }),
  pressure: quantity('pressure', { title: 'Pressure at altitude 0', positive: true }),
  stretchTime: quantity('time', { title: 'Lines stretched at' }).optional(),
  fullTime: quantity('time', { title: 'Full at' }).optional(),
  stretchSpeed: quantity('velocity', { title: 'Speed at stretch', positive: true }).optional(),
  heightFrom: z.enum(HEIGHT_FROM).default('altitude').meta({ title: 'Height is told by' }),
  frameRate: quantity('frequency', { title: 'Pictures a second', positive: true }).optional(),
  phases: z
    .array(z.object({ name: z.string().min(1).meta({ title: 'Phase' }), window: timeWindow('Steady in it') }))
    .optional()
    .meta({ title: 'Phases: reefed, full' }),
  inflation: z.enum(['full', 'partly', 'none']).optional().meta({ title: 'The canopy was seen to fill' }),
  inflatedShare: plain({ title: 'Of it, where partly', positive: true, max: 1 }).optional(),
  inflatedAt: quantity('time', { title: 'Seen full at' }).optional(),
  landing: z
    .tuple([quantity('length'), quantity('length')])
    .optional()
    .meta({ title: 'Landed at: east; north of the start' }),
})

export type DescentSettings = z.output<typeof settings>

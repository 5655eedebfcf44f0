import { quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const settings = z.object({
  linearMass: quantity('massPerLength', { title: 'Mass per length', positive: true }),
  length: quantity('length', { title: 'Length', positive: true }).optional(),
  zeroStart: timeWindow('Zero at the start').optional(),
})

export type CrushSettings = z.output<typeof settings>

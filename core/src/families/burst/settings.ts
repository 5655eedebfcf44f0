import { plain, quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const settings = z.object({
  volume: quantity('volume', { title: 'Volume', positive: true }).optional(),
  radius: quantity('length', { title: 'Radius', positive: true }),
  ratedPressure: quantity('pressure', { title: 'Rated pressure', positive: true }),
  requiredFactor: plain({ title: 'Factor that is asked', positive: true }),
  ambientPressure: quantity('pressure', { title: 'Ambient pressure', positive: true }).default(101_325),
  holds: z.array(timeWindow('Hold')).default([]).meta({ title: 'Holds' }),
  zeroStart: timeWindow('Zero at the start').optional(),
  gaugeFullScale: quantity('pressure', { title: 'Full scale of the gauge', positive: true }).optional(),
})

export type BurstSettings = z.output<typeof settings>

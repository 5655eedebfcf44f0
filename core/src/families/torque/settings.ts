import { quantity, timeWindow } from '../../method/settings'
import * as z from 'zod'

export const settings = z.object({
  offset: quantity('angle', { title: 'Yield offset', positive: true }),
  requiredTorque: quantity('torque', { title: 'Required torque', positive: true }),
  outcome: z.enum(['article', 'no-failure', 'fixture']).default('article').meta({ title: 'What ended the test' }),
  zeroStart: timeWindow('Zero at the start').optional(),
})

export type TorqueSettings = z.output<typeof settings>

import { quantity } from '../../method/settings'
import { circuitField } from './circuitField'
import * as z from 'zod'

export const pressure = quantity('pressure', { title: 'Pressure', positive: true })

export const voltage = quantity('voltage', { title: 'Voltage', positive: true })

export const settings = z.object({
  kind: z.enum(['sweep', 'beam']).default('sweep').meta({ title: 'What was read' }),
  transmit: z
    .object({ pressure, distance: quantity('length', { title: 'Distance', positive: true }), voltage })
    .optional()
    .meta({ title: 'Transmitted' }),
  receive: z.object({ voltage, pressure }).optional().meta({ title: 'Received' }),
  model: circuitField,
})

export type TransducerSettings = z.output<typeof settings>

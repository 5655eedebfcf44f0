import { quantity } from '../../method/settings'
import { circuitField } from './circuitField'
import * as z from 'zod'

export const pressure = quantity('pressure', { title: 'Pressure', positive: true })

export const voltage = quantity('voltage', { title: 'Voltage', positive: true })

export const settings = z.object({
  kind: z.enum(['sweep', 'beam', 'response']).default('sweep').meta({ title: 'What was read' }),
  symmetry: z.enum(['rotational', 'line']).default('rotational').meta({ title: 'Symmetry of the beam' }),
  response: z.enum(['transmit', 'receive']).default('transmit').meta({ title: 'Response' }),
  voltage: quantity('voltage', { title: 'Voltage of all rows', positive: true }).optional(),
  distance: quantity('length', { title: 'Distance of all rows', positive: true }).optional(),
  transmit: z
    .object({ pressure, distance: quantity('length', { title: 'Distance', positive: true }), voltage })
    .optional()
    .meta({ title: 'Transmitted' }),
  receive: z.object({ voltage, pressure }).optional().meta({ title: 'Received' }),
  model: circuitField,
})

export type TransducerSettings = z.output<typeof settings>

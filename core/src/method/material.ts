import * as z from 'zod'
import { quantity } from './settings'

/** A material that a candidate may be made of: what sizing needs to know, and how long it takes to get. */
export const material = z.object({
  name: z.string().trim().min(1, 'A material needs a name.'),
  modulus: quantity('pressure', { title: 'Modulus', positive: true }),
  strength: quantity('pressure', { title: 'Strength, bending', positive: true }),
  shearStrength: quantity('pressure', { title: 'Strength, shear', positive: true }),
  density: quantity('density', { title: 'Density', positive: true }),
  leadTimeDays: z.number().min(0).default(0),
  /** In the campaign's currency. */
  cost: z.number().min(0).optional(),
  /** Where its numbers come from. */
  evidence: z.array(z.string()).optional(),
})

import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { exact, tableOf } from '../answer'

const settings = z.object({
  factor: plain({ title: 'Load factor', positive: true }),
  mass: quantity('mass', { title: 'At mass', positive: true }),
  masses: z
    .array(quantity('mass', { positive: true }))
    .min(1)
    .meta({ title: 'Other masses' }),
})

/** Load factor at other masses for the same load in the structure: n₂ = n₁·m₁/m₂. */
export const gLimit = defineCalc({
  id: 'g-limit',
  title: 'Load factor by mass',
  purpose: 'What factor holds at another mass, for the same load in the structure',
  version: '1.0.0',
  settings,
  example: { factor: 5, mass: 480, masses: [400, 480, 540, 600] },
  calculate({ factor, mass, masses }) {
    const limits = masses.map(m => ({ mass: m, factor: (factor * mass) / m }))
    return {
      results: { lowestFactor: exact(Math.min(...limits.map(l => l.factor)), '1') },
      tables: { limits: tableOf(limits, { mass: 'kg', factor: '1' }) },
      warnings: [],
    }
  },
})

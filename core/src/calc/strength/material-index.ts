import * as z from 'zod'
import { defineCalc } from '../../method/calculation'
import { plain, quantity } from '../../method/settings'
import { tableOf } from '../answer'

const settings = z.object({
  materials: z
    .array(
      z.object({
        name: z.string().meta({ title: 'Material' }),
        modulus: quantity('pressure', { title: 'Modulus', positive: true }),
        density: quantity('density', { title: 'Density', positive: true }),
        strength: quantity('pressure', { title: 'Strength', positive: true }),
        leadTime: quantity('time', { title: 'Lead time', min: 0 }).optional(),
        machining: plain({ title: 'Machining, relative', min: 0 }).optional(),
        cost: plain({ title: 'Cost a kilogram', min: 0 }).optional(),
      }),
    )
    .min(1)
    .meta({ title: 'Materials' }),
})

/**
 * Material indices for least mass: E/ρ, √E/ρ, ∛E/ρ where stiffness drives a tie, a beam, a panel; σ/ρ, σ^⅔/ρ, √σ/ρ
 * where
 * strength does. SI throughout; only their order means something.
 *
 * @source Ashby, Materials Selection in Mechanical Design, ch. 5
 */
export const materialIndex = defineCalc({
  id: 'index',
  title: 'Material index',
  purpose: 'Which material is lightest where stiffness or strength drives',
  version: '1.0.0',
  settings,
  example: {
    materials: [
      { name: 'steel', modulus: { value: 205, unit: 'GPa' }, density: 7850, strength: { value: 620, unit: 'MPa' } },
      { name: 'laminate', modulus: { value: 60, unit: 'GPa' }, density: 1550, strength: { value: 600, unit: 'MPa' } },
    ],
  },
  calculate({ materials }) {
    const has = (key: 'leadTime' | 'machining' | 'cost') => materials.some(m => m[key] !== undefined)
    const beside = (['leadTime', 'machining', 'cost'] as const).filter(has)
    const rows = materials.map(({ name, modulus: E, density, strength: S, ...m }) => ({
      name,
      tieStiffness: E / density,
      beamStiffness: Math.sqrt(E) / density,
      panelStiffness: Math.cbrt(E) / density,
      tieStrength: S / density,
      beamStrength: S ** (2 / 3) / density,
      panelStrength: Math.sqrt(S) / density,
      ...Object.fromEntries(beside.map(key => [key, m[key] ?? null])),
    }))
    return {
      results: {},
      tables: {
        materials: tableOf(rows, {
          name: '1',
          tieStiffness: 'm²/s²',
          beamStiffness: '1',
          panelStiffness: '1',
          tieStrength: 'm²/s²',
          beamStrength: '1',
          panelStrength: '1',
          ...Object.fromEntries(beside.map(k => [k, k === 'leadTime' ? 's' : '1'])),
        }),
      },
      warnings: [],
    }
  },
})

import { HypometError } from '../error'
import { anyQuantity, type QuantityInput } from '../method/settings'
import { kindOf, type Kind } from '../quantity/index'
import { DIMENSIONLESS, sameDimension } from '../quantity/dimension'
import type { Row } from './field'
import { defineRegister } from './register'

export const ORIGINS = [
  { value: 'supplier', label: 'Supplier' },
  { value: 'measured', label: 'Measured' },
  { value: 'handbook', label: 'Handbook' },
  { value: 'assumed', label: 'Assumed' },
]

/** What sizing reads of a material, by the names that constants go by; further names are free. */
export const MATERIAL_PROPERTIES = {
  modulus: 'Modulus',
  strength: 'Strength, bending',
  shearStrength: 'Strength, shear',
  density: 'Density',
  leadTimeDays: 'Lead time',
  cost: 'Cost',
} as const

/**
 * Numbers of materials and suppliers that things are sized from, with where they come from and on how many they stand.
 */
export const constantRegister = defineRegister({
  id: 'constant',
  one: 'Constant',
  many: 'Constants',
  perCampaign: true,
  name: 'property',
  fields: [
    { key: 'subject', title: 'Of', type: 'text', required: true, hint: 'Material, part or medium' },
    { key: 'property', title: 'Property', type: 'text', required: true, suggest: Object.values(MATERIAL_PROPERTIES) },
    { key: 'entered', title: 'Value', type: 'quantity', kind: 'any', required: true },
    { key: 'origin', title: 'Origin', type: 'choice', fallback: 'supplier', options: ORIGINS },
    { key: 'n', title: 'n', type: 'number', whole: true, min: 1, hint: 'Specimens behind the value' },
    { key: 'spread', title: 'Standard deviation', type: 'quantity', kind: 'any', min: 0 },
    { key: 'source', title: 'Source', type: 'text' },
    { key: 'note', title: 'Note', type: 'text', aside: true },
  ],
  check(row) {
    const { dimension } = siOfConstant(row)
    if (row['spread'] === null || row['spread'] === undefined) return
    const spread = anyQuantity({ min: 0 }).safeParse(row['spread'])
    if (!spread.success) throw new HypometError('setting-range', spread.error.issues[0]!.message, { path: 'spread' })
    if (spread.data.dimension && !sameDimension(spread.data.dimension, dimension))
      throw new HypometError('unit-dimension', 'The standard deviation must be in a unit of the value’s kind.', {
        path: 'spread',
      })
  },
})

/** SI value of a constant, and what its unit says it is. */
export function siOfConstant(row: Row): { value: number; kind: Kind; dimension: readonly number[] } {
  const { si, dimension } = anyQuantity().parse(row['entered'] as QuantityInput)
  const known = dimension ?? DIMENSIONLESS
  return { value: si, kind: kindOf(known) ?? 'ratio', dimension: known }
}

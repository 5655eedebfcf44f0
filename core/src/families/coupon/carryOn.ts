import type { CarriedOn } from '../../method/define'
import type { MethodOutput } from '../../method/reduction'

/** Another coverage or confidence for the same set. */
export function carryOnCoupon({ tables }: Pick<MethodOutput, 'tables'>): CarriedOn[] {
  const values = (tables['specimens']?.columns['strength'] ?? []).filter(v => typeof v === 'number')
  return values.length < 2 ? [] : [{ calc: 'tolerance-factor', title: 'Another coverage or confidence', settings: { values } }]
}

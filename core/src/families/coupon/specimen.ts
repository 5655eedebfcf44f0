import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { topOf } from '../../plan/plan'
import type { CouponPlan } from './plan'

export interface CouponTruth {
  /** Pa; strain at which half of a shear stiffness is gone, zero where it stays straight. */
  modulus: number
  strength: number
  soften: number
  area: number
}

interface CouponMemory extends SpecimenMemory {
  broken: boolean
}

/** A coupon that stretches and breaks; in shear it softens first. */
export const couponSpecimen: Specimen<CouponPlan, unknown, CouponTruth, CouponMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const area =
      (plan.kind === 'bearing' ? (plan.diameter ?? 0.006) : (plan.width ?? 0.025)) *
      (plan.thickness ?? 0.002) *
      (plan.kind === 'inPlaneShear' ? 2 : 1)
    const top = plan.rungs[topOf(plan.rungs)]!.target
    const strength = ((0.9 * top) / area) * (1 + 0.03 * random.normal())
    const expected = plan.channels.find(c => c.role === 'strain')?.expected
    return {
      modulus: (strength / (expected ?? 0.012)) * (1 + 0.02 * random.normal()),
      strength,
      soften: plan.kind === 'inPlaneShear' ? 0.02 : 0,
      area,
    }
  },
  rest: () => ({ cap: null, broken: false }),
  step(truth, m, [force = 0]) {
    if (m.broken || force / truth.area < Math.min(truth.strength, (m.cap ?? Infinity) / truth.area)) return null
    m.broken = true
    return 'article broke'
  },
  reader: (_, __, truth, c) =>
    c.kind === 'strain' ? (m, [force = 0]) => (m.broken ? 0 : strainOf(truth, force / truth.area)) : null,
}

/** Strain at a stress; softening as stress = modulus·strain/(1 + strain/soften). */
export function strainOf({ modulus, soften }: Pick<CouponTruth, 'modulus' | 'soften'>, stress: number): number {
  if (soften === 0) return stress / modulus
  return stress / modulus / Math.max(0.02, 1 - stress / modulus / soften)
}

import { topOf } from '../../plan/plan'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { TorquePlan } from './plan'

interface TorqueTruth {
  stiffness: number
  yield: number
  ultimate: number
  /** Exponent of the plastic part: torque over yield to this power. */
  hardening: number
  offset: number
}

interface TorqueMemory extends SpecimenMemory {
  /** Twist that stays, rad. */
  plastic: number
  broken: boolean
}

/** A shaft that yields, hardens and shears. */
export const torqueSpecimen: Specimen<TorquePlan, unknown, TorqueTruth, TorqueMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const top = plan.rungs[topOf(plan.rungs)]!.target
    const ultimate = (predicted ?? 0.95 * top) * (1 + 0.03 * random.normal())
    const known =
      plan.loading.kind === 'torque' ? (plan.loading.settings as { stiffness?: number }).stiffness : undefined
    const expected = plan.channels.find(c => c.role === 'twist')?.expected
    return {
      stiffness: (known ?? (expected ? (1.6 * top) / expected : 10 * top)) * (1 + 0.02 * random.normal()),
      yield: 0.82 * ultimate * (1 + 0.02 * random.normal()),
      ultimate,
      hardening: 14,
      offset: plan.offset ?? 0.02,
    }
  },
  rest: () => ({ cap: null, plastic: 0, broken: false }),
  step(truth, m, [torque = 0]) {
    m.plastic = Math.max(m.plastic, truth.offset * Math.max(0, torque / truth.yield) ** truth.hardening)
    if (m.broken || torque < Math.min(truth.ultimate, m.cap ?? Infinity)) return null
    m.broken = true
    return 'article broke'
  },
  reader: (_, __, truth, c) =>
    c.kind === 'angle' ? (m, [torque = 0]) => torque / truth.stiffness + m.plastic + (m.broken ? 0.1 : 0) : null,
}

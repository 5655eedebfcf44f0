import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { topOf } from '../../plan/plan'
import type { PullPlan } from './plan'

interface PullTruth {
  strength: number
  /** Stretch at the break, and what beds in at the first loading, m. */
  stretch: number
  bedding: number
  /** Of the stretch over the share of the strength: webbing stiffens. */
  curve: number
}

interface PullMemory extends SpecimenMemory {
  most: number
  broken: boolean
}

/** Of a new strop lost when it is worn through, and how builds scatter. */
const LOST_BY_WEAR = 0.42
const SCATTER = 0.03
/** Where nobody says what it carries: above the highest rung. */
const RESERVE = 1.1

/** A strop that beds in, stiffens and parts; wear takes its strength and its stretch. */
export const pullSpecimen: Specimen<PullPlan, unknown, PullTruth, PullMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const left = 1 - LOST_BY_WEAR * (plan.wear ?? 0)
    const top = plan.rungs[topOf(plan.rungs)]!.target
    const expected = plan.channels.find(c => c.role === 'displacement')?.expected
    const strength = (plan.referenceStrength ?? predicted ?? RESERVE * top) * left * (1 + SCATTER * random.normal())
    return {
      strength,
      stretch: (expected ?? 0.2) * Math.sqrt(left) * (1 + 0.02 * random.normal()),
      bedding: 0.06 * (expected ?? 0.2),
      curve: 0.72,
    }
  },
  rest: () => ({ cap: null, most: 0, broken: false }),
  step(truth, m, [load = 0]) {
    m.most = Math.max(m.most, load)
    if (m.broken || load < Math.min(truth.strength, m.cap ?? Infinity)) return null
    m.broken = true
    return 'article broke'
  },
  reader(_, __, truth, c) {
    if (c.kind !== 'length') return null
    return (m, [load = 0]) =>
      truth.stretch * Math.max(0, load / truth.strength) ** truth.curve * (m.broken ? 1.6 : 1) +
      truth.bedding * Math.min(1, (4 * m.most) / truth.strength)
  },
}

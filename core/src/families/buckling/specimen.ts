import { topOf } from '../../plan/plan'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { BucklingPlan } from './plan'
import { classicalForce } from '../../calc/strength/shell'

interface BucklingTruth {
  strength: number
  /** Load at which its dents would grow without end, and their first depth, m. */
  critical: number
  dent: number
  /** Waves around, and where a crest lies. */
  waves: number
  phase: number
  /** m a newton of plain shortening at a gauge along the axis. */
  shortening: number
}

interface BucklingMemory extends SpecimenMemory {
  broken: boolean
}

/** Where no shell is described: above the highest rung. */
const RESERVE = 0.9
const WAVES = 6

/** A shell whose dents grow as the load nears its critical one, until it snaps. */
export const bucklingSpecimen: Specimen<BucklingPlan, unknown, BucklingTruth, BucklingMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const { radius, thickness, modulus, poisson = 0.3 } = plan
    const perfect = thickness && modulus ? classicalForce({ modulus, thickness, poisson }) : null
    const strength =
      (predicted ?? (perfect ? 0.6 * perfect : RESERVE * plan.rungs[topOf(plan.rungs)]!.target)) *
      (1 + 0.04 * random.normal())
    return {
      strength,
      critical: strength * (1.05 + 0.02 * random.uniform()),
      dent: 0.06 * (thickness ?? 1e-3),
      waves: WAVES,
      phase: 6 * random.uniform(),
      shortening:
        thickness && modulus && radius
          ? (plan.length ?? 2 * radius) / (modulus * 2 * Math.PI * radius * thickness)
          : 1e-9,
    }
  },
  rest: () => ({ cap: null, broken: false }),
  step(truth, m, [force = 0]) {
    if (m.broken || force < Math.min(truth.strength, m.cap ?? Infinity)) return null
    m.broken = true
    return 'article broke'
  },
  reader(plan, _, truth, c) {
    if (c.kind === 'pressure') return () => plan.innerPressure ?? 0
    if (c.kind === 'torque') return (_m, [force = 0]) => force * (plan.eccentricity ?? 0)
    if (c.kind !== 'length') return null
    const grown = (m: BucklingMemory, force: number) =>
      truth.dent * (Math.max(0, force) / Math.max(0.01 * truth.critical, truth.critical - force)) * (m.broken ? 12 : 1)
    const gauge = plan.ring?.find(g => g.channel === c.role)
    if (gauge) return (m, [force = 0]) => grown(m, force) * Math.cos(truth.waves * gauge.angle - truth.phase)
    return (m, [force = 0]) => truth.shortening * force + grown(m, force)
  },
  gauge: (_, c) => (c.kind === 'length' ? { noise: 1e-6 } : {}),
}

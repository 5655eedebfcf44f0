import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { topOf } from '../../plan/plan'
import type { CrushPlan } from './plan'

interface CrushTruth {
  /** Mean force, N, its first peak as a multiple, and the travel at which the tube is used up, m. */
  mean: number
  peak: number
  used: number
  /** Splaying comes in waves of this length, m, and share. */
  wave: number
  ripple: number
  phase: number
}

interface CrushMemory extends SpecimenMemory {
  x: number
}

/** The platen comes down on it after this travel, m. */
const GAP = 0.002
/** Way over which the first peak builds and falls, m, and over which a used tube becomes stiff. */
const [RISE, FALL, DENSE] = [0.003, 0.006, 0.012]
/** Of a press cell, in mean forces. */
const PRESS_RANGE = 6
/** A fast crush carries a little less: friction falls with speed. Share for each decade above a millimetre a second. */
const SLOWER_BY_SPEED = 0.025

/**
 * A tube that peaks, splays in waves and, once used up, stands. Commanded by travel, or by the force that it then
 * carries.
 */
export const crushSpecimen: Specimen<CrushPlan, unknown, CrushTruth, CrushMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const force = plan.channels.find(c => c.role === 'force')?.expected ?? 25_000
    const travel = plan.commanded.kind === 'length' ? plan.rungs[topOf(plan.rungs)]!.target : (plan.length ?? 0.24)
    const slower = SLOWER_BY_SPEED * Math.max(0, Math.log10((plan.speed ?? 1e-3) / 1e-3))
    return {
      mean: 0.72 * force * (1 - slower) * (1 + 0.02 * random.normal()),
      peak: 1.3 + 0.03 * random.normal(),
      used: (plan.length ? 0.78 * plan.length : 0.85 * travel) * (1 + 0.01 * random.normal()),
      wave: 0.011,
      ripple: 0.05,
      phase: 6 * random.uniform(),
    }
  },
  rest: () => ({ cap: null, x: 0 }),
  step(_, m, [travel = 0]) {
    m.x = travel
    return null
  },
  readsCommanded: true,
  reader(plan, _, truth, c) {
    const byTravel = plan.commanded.kind === 'length'
    const forceAt = (travel: number): number => {
      const x = travel - GAP
      if (x <= 0) return 0
      const first = x < RISE ? truth.peak * (x / RISE) : 1 + (truth.peak - 1) * Math.exp(-(x - RISE) / FALL)
      const waves = x < RISE ? 0 : truth.ripple * Math.sin((2 * Math.PI * x) / truth.wave + truth.phase)
      return truth.mean * (first + waves + Math.max(0, Math.exp((x - truth.used) / DENSE) - 1))
    }
    if (c.role === plan.commanded.role) return (_m, [set = 0]) => set
    if (c.kind === 'force') return byTravel ? m => forceAt(m.x) : null
    // Under a force that is told it crushes as far as it takes.
    return c.kind === 'length' && !byTravel
      ? (_m, [force = 0]) =>
          force < truth.peak * truth.mean
            ? (RISE * force) / (truth.peak * truth.mean)
            : truth.used + DENSE * Math.log(Math.max(1, force / truth.mean))
      : null
  },
  // A press cell is chosen for the end of the travel, not for the plateau.
  gauge: (truth, c) => (c.kind === 'force' ? { range: PRESS_RANGE * truth.mean } : {}),
}

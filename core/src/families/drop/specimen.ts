import { topOf } from '../../plan/plan'
import { STANDARD_GRAVITY } from '../../quantity/units'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { fallOf, type DropPlan } from './plan'

interface DropTruth {
  /** Of the article's stop, m/s², its first peak as a multiple, and what it gives back. */
  plateau: number
  peak: number
  restitution: number
  guideLoss: number
  /** Ringing of the structure on top of it: share and Hz. */
  ringing: number
  ringsAt: number
}

interface DropMemory extends SpecimenMemory {
  last: number
  still: number
  /** s since it was let go; below nothing while it hangs. */
  since: number
  /** From what height it fell, m. */
  height: number
}

/** It is let go once the hoist has stood for so long, s. */
const RELEASED_AFTER = 0.3
const RISE = 0.004
/** m/s, and m: what hangs lower than this hangs not. */
const STILL = 1e-2
const HANGS = 0.01

/** Let go at its height, it falls down the guide and stops against what crushes under it. */
export const dropSpecimen: Specimen<DropPlan, unknown, DropTruth, DropMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const { deceleration = 60, restitution = 0.12, guideLoss = 0.04 } = fallOf(plan)
    return {
      plateau: deceleration * (1 + 0.03 * random.normal()),
      peak: 1.22 + 0.03 * random.normal(),
      restitution: restitution * (0.8 + 0.2 * random.uniform()),
      guideLoss: guideLoss * (0.8 + 0.4 * random.uniform()),
      ringing: 0.12,
      ringsAt: 85 + 10 * random.uniform(),
    }
  },
  rest: () => ({ cap: null, last: 0, still: 0, since: -1, height: 0 }),
  step(_, m, [height = 0], dt) {
    const hung = m.still
    m.still = height > HANGS && Math.abs(height - m.last) < STILL * dt ? m.still + dt : 0
    m.last = height
    if (m.since >= 0) m.since += dt
    if (hung < RELEASED_AFTER && m.still >= RELEASED_AFTER) Object.assign(m, { since: 0, height })
    return null
  },
  readsCommanded: true,
  reader(plan, _, truth, c) {
    if (c.role === plan.commanded.role) return (_m, [height = 0]) => height
    if (c.kind !== 'acceleration') return null
    const top = plan.rungs[topOf(plan.rungs)]!.target
    return m => (m.since < 0 ? 0 : pulse(truth, m.height || top, m.since))
  },
}

/** Deceleration so long after the release: none in the fall, then a rise, a plateau that stops it, and a soft end. */
function pulse(truth: DropTruth, height: number, since: number): number {
  const velocity = Math.sqrt(2 * STANDARD_GRAVITY * height * (1 - truth.guideLoss))
  const s = since - velocity / (STANDARD_GRAVITY * (1 - truth.guideLoss))
  if (s < 0) return 0
  const lasts = (velocity * (1 + truth.restitution)) / truth.plateau
  const end = Math.max(0, s - lasts)
  const shape = s < RISE ? truth.peak * (s / RISE) : 1 + (truth.peak - 1) * Math.exp(-(s - RISE) / 0.008)
  const ring = truth.ringing * Math.exp(-s / 0.02) * Math.sin(2 * Math.PI * truth.ringsAt * s)
  return truth.plateau * (shape + ring) * Math.exp(-end / 0.0025)
}

import { topOf } from '../../plan/plan'
import { STANDARD_GRAVITY } from '../../quantity/units'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { DescentPlan } from './plan'

interface DescentTruth {
  mass: number
  /** Drag area when full, and before the lines are stretched, m². */
  full: number
  loose: number
  /** s until the lines are stretched, and until it is full. */
  stretch: number
  fill: number
  /** rad, and s of a swing. */
  swing: number
  period: number
}

interface DescentMemory extends SpecimenMemory {
  last: number
  still: number
  since: number
  height: number
  speed: number
  /** N in the riser. */
  force: number
  landed: boolean
}

const AIR = 1.2
const RELEASED_AFTER = 0.5
/** m/s, and m: what hangs lower than this hangs not. */
const STILL = 0.05
const HANGS = 0.5
/** What the filling throws on top of the steady drag. */
const OVERSHOOT = 0.55
/** A small vent swings; a wide one lets air through. Per metre of vent. */
const VENT = { swing: 0.55, swingAt: 0.3, steadyAt: 0.5, loss: 0.8 }

/**
 * Released at its height: a short fall, lines stretch, the canopy fills and comes down, swinging as its vent lets it.
 */
export const descentSpecimen: Specimen<DescentPlan, unknown, DescentTruth, DescentMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const area = plan.referenceArea ?? 28
    const vent = plan.vent ?? 0.4
    const calm = Math.min(1, Math.max(0, (vent - VENT.swingAt) / (VENT.steadyAt - VENT.swingAt)))
    return {
      mass: plan.mass ?? 60,
      full: 0.86 * area * (1 - VENT.loss * Math.max(0, vent - VENT.swingAt)) * (1 + 0.02 * random.normal()),
      loose: 0.25,
      stretch: 0.9 + 0.1 * random.uniform(),
      fill: 1.1 + 0.25 * random.uniform(),
      swing: VENT.swing * (1 - calm) + 0.06 * (1 + 0.2 * random.normal()),
      period: 4.6 + 0.3 * random.normal(),
    }
  },
  rest: () => ({ cap: null, last: 0, still: 0, since: -1, height: 0, speed: 0, force: 0, landed: false }),
  step(truth, m, [height = 0], dt) {
    m.still = height > HANGS && Math.abs(height - m.last) < STILL * dt ? m.still + dt : 0
    m.last = height
    if (m.since < 0) {
      m.height = height
      if (height > 0 && m.still >= RELEASED_AFTER) m.since = 0
      return null
    }
    if (m.landed) return null
    m.since += dt
    const filled = Math.min(1, Math.max(0, (m.since - truth.stretch) / truth.fill))
    const area =
      truth.loose +
      (truth.full - truth.loose) *
        filled ** 2 *
        (1 +
          OVERSHOOT * Math.exp(-(((filled - 0.95) / 0.12) ** 2)) * (m.since < truth.stretch + 1.3 * truth.fill ? 1 : 0))
    const drag = 0.5 * AIR * m.speed ** 2 * area
    m.speed += (STANDARD_GRAVITY - drag / truth.mass) * dt
    m.height -= m.speed * dt
    const angle =
      filled < 1 ? 0 : truth.swing * Math.cos((2 * Math.PI * (m.since - truth.stretch - truth.fill)) / truth.period)
    const ends = Math.cos(truth.swing)
    m.force =
      m.since < truth.stretch
        ? 0
        : filled < 1
          ? drag
          : truth.mass * STANDARD_GRAVITY * (3 * Math.cos(angle) - 2 * ends) * (drag / (truth.mass * STANDARD_GRAVITY))
    if (m.height <= 0) Object.assign(m, { height: 0, speed: 0, force: 0, landed: true })
    return null
  },
  readsCommanded: true,
  reader(plan, _, truth, c) {
    const top = plan.rungs[topOf(plan.rungs)]!.target
    if (c.role === 'altitude') return m => m.height
    if (c.kind === 'force') return m => m.force
    if (c.kind === 'pressure') return m => 101_325 * (1 - (0.0065 * m.height) / 288.15) ** 5.25588
    if (c.role === plan.commanded.role) return (_m, [height = 0]) => Math.min(height, top)
    return null
  },
}

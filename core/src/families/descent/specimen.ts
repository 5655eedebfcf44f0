import { topOf } from '../../plan/plan'
import { STANDARD_GRAVITY } from '../../quantity/units'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { CanopySettings } from '../../plan/loading/canopy'
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
  /** Stages as shares of the full drag area, s from the stretch of the lines; one without reefing. */
  stages: { share: number; at: number }[]
  /** m/s over the ground at the exit, to the east and to the north. */
  carrier: readonly [number, number]
  wind: readonly { altitude: number; east: number; north: number }[]
}

interface DescentMemory extends SpecimenMemory {
  last: number
  still: number
  since: number
  height: number
  speed: number
  /** m from below the exit, m/s over the ground. */
  east: number
  north: number
  drift: [number, number]
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

/** The day is not the one that was planned for: a wind that is off by a tenth, from a little elsewhere. */
const DAY = { wind: 0.1, direction: 0.08 }

function releaseOf(
  released: CanopySettings | null,
  random: SeededRandom,
): Pick<DescentTruth, 'stages' | 'carrier' | 'wind'> {
  const { carrierSpeed = 0, course = 0, stages = [], layers = [] } = released ?? {}
  const [faster, turned] = [1 + DAY.wind * random.normal(), DAY.direction * random.normal()]
  return {
    stages:
      stages.length > 0
        ? stages.map(g => ({ share: g.share, at: g.after + g.spread * random.normal() }))
        : [{ share: 1, at: 0 }],
    carrier: [carrierSpeed * Math.sin(course), carrierSpeed * Math.cos(course)],
    wind: layers.map(l => ({
      altitude: l.altitude,
      east: -Math.sin(l.from + turned) * l.speed * faster,
      north: -Math.cos(l.from + turned) * l.speed * faster,
    })),
  }
}

function windAt({ wind }: DescentTruth, height: number): readonly [number, number] {
  const below = wind.filter(l => l.altitude <= height)
  const layer = below.toSorted((a, b) => b.altitude - a.altitude)[0] ?? wind[0]
  return layer ? [layer.east, layer.north] : [0, 0]
}

/** Drag area at s from the exit, and how far its stage has filled; each throws a little over as it does. */
function openAt(truth: DescentTruth, since: number): { area: number; filled: number } {
  let [area, filled] = [truth.loose, 0]
  for (const [i, { share, at }] of truth.stages.entries()) {
    const begun = since - truth.stretch - at
    if (begun < 0) break
    // A reefed stage fills in the time that its share of the cloth takes.
    const fill = truth.fill * (i === 0 ? Math.sqrt(share) : 1)
    filled = Math.min(1, begun / fill)
    const thrown = begun < 1.3 * fill ? OVERSHOOT * Math.exp(-(((filled - 0.95) / 0.12) ** 2)) : 0
    area += (share * truth.full - area) * filled ** 2 * (1 + thrown)
  }
  return { area, filled }
}

/**
 * Released at its height: a short fall, lines stretch, the canopy fills and comes down, swinging as its vent lets it.
 */
export const descentSpecimen: Specimen<DescentPlan, unknown, DescentTruth, DescentMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const area = plan.referenceArea ?? 28
    const vent = plan.vent ?? 0.4
    const released = plan.loading.kind === 'canopy' ? (plan.loading.settings as CanopySettings) : null
    const coefficient = released?.dragCoefficient ?? 0.86
    const calm = Math.min(1, Math.max(0, (vent - VENT.swingAt) / (VENT.steadyAt - VENT.swingAt)))
    return {
      mass: plan.mass ?? 60,
      full: coefficient * area * (1 - VENT.loss * Math.max(0, vent - VENT.swingAt)) * (1 + 0.02 * random.normal()),
      loose: 0.25,
      stretch: released?.delay ?? 0.9 + 0.1 * random.uniform(),
      fill: 1.1 + 0.25 * random.uniform(),
      swing: VENT.swing * (1 - calm) + 0.06 * (1 + 0.2 * random.normal()),
      period: 4.6 + 0.3 * random.normal(),
      ...releaseOf(released, random),
    }
  },
  rest: () => ({
    ...{ cap: null, last: 0, still: 0, since: -1, height: 0, speed: 0, force: 0, landed: false },
    ...{ east: 0, north: 0, drift: [0, 0] },
  }),
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
    if (m.since <= dt) m.drift = [...truth.carrier]
    const { area, filled } = openAt(truth, m.since)
    const wind = windAt(truth, m.height)
    const past = [m.drift[0] - wind[0], m.drift[1] - wind[1]] as const
    // Along the air past it: what is blown sideways falls no faster for it.
    const k = (0.5 * AIR * area * Math.hypot(m.speed, ...past)) / truth.mass
    const drag = k * truth.mass * Math.hypot(m.speed, ...past)
    m.speed += (STANDARD_GRAVITY - k * m.speed) * dt
    m.drift = [m.drift[0] - k * past[0] * dt, m.drift[1] - k * past[1] * dt]
    m.height -= m.speed * dt
    m.east += m.drift[0] * dt
    m.north += m.drift[1] * dt
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
    if (c.role === 'east') return m => m.east
    if (c.role === 'north') return m => m.north
    if (c.kind === 'force') return m => m.force
    if (c.kind === 'pressure') return m => 101_325 * (1 - (0.0065 * m.height) / 288.15) ** 5.25588
    if (c.role === plan.commanded.role) return (_m, [height = 0]) => Math.min(height, top)
    return null
  },
}

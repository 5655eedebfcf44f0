import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { BarPlan } from './plan'

export interface BarTruth {
  velocity: number
  strikerLength: number
  /** Wave speed, m/s, and impedance E·A of the bars, N. */
  c: number
  EA: number
  incidentGauge: number
  transmittedGauge: number
  /** Specimen: m, m², elastic modulus, yield stress and hardening modulus, Pa. */
  length: number
  area: number
  modulus: number
  yield: number
  hardening: number
}

interface BarMemory extends SpecimenMemory {
  /** s since the striker hit; below nothing before. */
  since: number
}

/** Rise of the pulse, s; the striker's own reflection ends it as softly. */
const RISE = 14e-6
const STEP = 1e-7

/** A striker, two bars and what is between them: one-dimensional waves, an elastic specimen that yields and hardens. */
export const barSpecimenOfRig: Specimen<BarPlan, unknown, BarTruth, BarMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const {
      barModulus = 200e9,
      barDensity = 7850,
      barDiameter = 0.016,
      strikerLength = 0.4,
      strikerVelocity = 12,
      specimenLength = 0.006,
      specimenArea = 5e-5,
      gaugeToSpecimenIncident = 0.9,
      gaugeToSpecimenTransmitted = 0.7,
    } = plan
    const c = Math.sqrt(barModulus / barDensity)
    return {
      velocity: strikerVelocity * (1 + 0.01 * random.normal()),
      strikerLength,
      c,
      EA: (barModulus * Math.PI * barDiameter ** 2) / 4,
      incidentGauge: gaugeToSpecimenIncident,
      transmittedGauge: gaugeToSpecimenTransmitted,
      length: specimenLength,
      area: specimenArea,
      modulus: 60e9,
      yield: 380e6 * (1 + 0.02 * random.normal()),
      hardening: 0.7e9,
    }
  },
  rest: () => ({ cap: null, since: -1 }),
  step(_, m, [velocity = 0], dt) {
    if (m.since >= 0) m.since += dt
    else if (velocity > 0) m.since = 0
    return null
  },
  reader(_, __, truth, c) {
    if (c.kind !== 'strain') return null
    const waves = barWaves(truth)
    return m => (m.since < 0 ? 0 : c.role === 'transmitted' ? waves.transmitted(m.since) : waves.incident(m.since))
  },
  gauge: (_, c) => (c.kind === 'strain' ? { zero: 0, drift: 0, noise: 4e-6, hysteresis: 0 } : {}),
}

/**
 * Strains at both gauges over the time since the incident wave began to pass its own. Compression is negative, as
 * gauges read it.
 */
export function barWaves(truth: BarTruth): { incident(t: number): number; transmitted(t: number): number } {
  const { c, EA } = truth
  const peak = truth.velocity / (2 * c)
  const lasts = (2 * truth.strikerLength) / c
  const pulse = (t: number) =>
    t <= 0 || t >= lasts + RISE ? 0 : peak * Math.min(1, t / RISE, (lasts + RISE - t) / RISE)
  // At the specimen: the transmitted wave is what its stress passes on, the reflected one what is left.
  const n = Math.ceil((lasts + 4 * RISE) / STEP)
  const [reflected, passed] = [new Float64Array(n), new Float64Array(n)]
  let [strain, plastic] = [0, 0]
  for (let i = 1; i < n; i++) {
    const stress = Math.max(0, Math.min(truth.modulus * (strain - plastic), truth.yield + truth.hardening * strain))
    plastic = Math.max(plastic, strain - stress / truth.modulus)
    passed[i] = (stress * truth.area) / EA
    reflected[i] = passed[i]! - pulse(i * STEP)
    strain += (c / truth.length) * (pulse(i * STEP) - reflected[i]! - passed[i]!) * STEP
  }
  const at = (y: Float64Array, t: number) => (t < 0 || t / STEP >= n ? 0 : y[Math.floor(t / STEP)]!)
  const [ai, back] = [truth.incidentGauge / c, truth.transmittedGauge / c]
  return { incident: t => -(pulse(t) + at(reflected, t - 2 * ai)), transmitted: t => -at(passed, t - ai - back) }
}

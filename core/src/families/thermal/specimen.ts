import { topOf } from '../../plan/plan'
import { ROOM_TEMPERATURE, type Specimen, type SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { ThermalPlan } from './plan'

interface ThermalTruth {
  ambient: number
  /** K a unit of what is commanded, and s. */
  rise: number
  time: number
}

interface ThermalMemory extends SpecimenMemory {
  temperature: number
}

/** Of the hold at the top: an article of this kind settles within it. */
const SETTLES_IN = 0.3

/** One lump of heat that leaks into the room. */
export const thermalSpecimen: Specimen<ThermalPlan, unknown, ThermalTruth, ThermalMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const top = plan.rungs[topOf(plan.rungs)]!
    const ambient = plan.ambient ?? ROOM_TEMPERATURE
    const steady = predicted ?? plan.channels.find(c => c.role === 'temperature')?.expected ?? ambient + 50
    return {
      ambient,
      rise: ((steady - ambient) / top.target) * (1 + 0.03 * random.normal()),
      time: Math.max(1, SETTLES_IN * top.hold * (1 + 0.05 * random.normal())),
    }
  },
  rest: truth => ({ cap: null, temperature: truth.ambient }),
  step(truth, m, [power = 0], dt) {
    m.temperature += (truth.ambient + truth.rise * power - m.temperature) * (1 - Math.exp(-dt / truth.time))
    return null
  },
  reader: (plan, _, truth, c) =>
    c.role === 'temperature'
      ? m => m.temperature
      : c.kind === 'temperature'
        ? () => truth.ambient
        : c.kind === plan.commanded.kind
          ? (_m, [power = 0]) => power
          : null,
  gauge: (_, c) => (c.kind === 'temperature' ? { zero: 0, drift: 0, noise: 0.05, hysteresis: 0 } : {}),
}

import { topOf } from '../../plan/plan'
import { ROOM_TEMPERATURE, type Specimen, type SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { BurstPlan } from './plan'

interface BurstTruth {
  strength: number
  /** Share of the absolute pressure lost in a second of a hold. */
  leak: number
  /** Room, K a second, while the day goes on. */
  warming: number
  /** Girth at the strength, m. */
  girth: number
}

interface BurstMemory extends SpecimenMemory {
  t: number
  last: number
  /** s since the valve was shut, and the temperature then; what has been lost since, as a share. */
  shut: number
  from: number
  lost: number
  creep: number
  broken: boolean
}

const AMBIENT = 101_325
/** A pressure that moves by less than this share of itself in a step is shut in. */
const STILL = 1e-4

/** A bag behind a shut valve: it leaks, follows the room's temperature, creeps and bursts. */
export const burstSpecimen: Specimen<BurstPlan, unknown, BurstTruth, BurstMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const top = plan.rungs[topOf(plan.rungs)]!.target
    return {
      strength: (predicted ?? 0.97 * top) * (1 + 0.04 * random.normal()),
      leak: 2e-7 * (1 + random.uniform()),
      warming: -6e-4 * (1 + 0.5 * random.uniform()),
      girth: plan.channels.find(c => c.kind === 'length')?.expected ?? 0.05,
    }
  },
  rest: () => ({ cap: null, t: 0, last: 0, shut: 0, from: ROOM_TEMPERATURE, lost: 0, creep: 0, broken: false }),
  step(truth, m, [pressure = 0], dt) {
    m.t += dt
    const room = ROOM_TEMPERATURE + truth.warming * m.t
    if (Math.abs(pressure - m.last) < STILL * Math.max(pressure, 1)) {
      if (m.shut === 0) m.from = room
      m.shut += dt
      m.lost += truth.leak * dt
    } else Object.assign(m, { shut: 0, lost: 0 })
    m.last = pressure
    m.creep += (0.03 * pressure - m.creep) * (1 - Math.exp(-dt / 40))
    if (m.broken || pressure < Math.min(truth.strength, m.cap ?? Infinity)) return null
    m.broken = true
    return 'article broke'
  },
  readsCommanded: true,
  reader(plan, _, truth, c) {
    const room = (m: BurstMemory) => ROOM_TEMPERATURE + truth.warming * m.t
    if (c.kind === 'temperature') return room
    if (c.kind === 'pressure')
      return (m, [pressure = 0]) =>
        m.shut > 0 && pressure > 0 ? (pressure + AMBIENT) * (1 - m.lost) * (room(m) / m.from) - AMBIENT : pressure
    if (c.kind !== 'length') return null
    return (m, [pressure = 0]) => (truth.girth * (pressure + m.creep)) / truth.strength
  },
}

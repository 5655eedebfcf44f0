import { ROOM_TEMPERATURE, type Specimen, type SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { benchOf, type SpinPlan } from './plan'

interface SpinTruth {
  /** At full set-point. */
  speed: number
  thrust: number
  torque: number
  supply: number
  /** Ohm of what feeds it. */
  source: number
  efficiency: number
  /** K a watt lost, and s. */
  heating: number
  warming: number
  /** m/s² of imbalance at full speed. */
  imbalance: number
  armA: number
  armB: number
}

interface SpinMemory extends SpecimenMemory {
  speed: number
  angle: number
  temperature: number
}

/** How fast a rotor follows its set-point, s. */
const FOLLOWS = 1.2

/** A motor with its rotor: thrust and torque with the square of the speed, losses that warm it. */
export const spinSpecimen: Specimen<SpinPlan, unknown, SpinTruth, SpinMemory> = {
  draw(plan, _, seed, predicted) {
    const random = new SeededRandom(seed)
    const { fullSpeed = 300, fullThrust, fullPower = 1500, supplyVoltage = 48 } = benchOf(plan)
    const near = (v: number, by = 0.02) => v * (1 + by * random.normal())
    const efficiency = near(0.78)
    return {
      speed: near(0.985 * fullSpeed),
      thrust: near(fullThrust ?? predicted ?? 100),
      torque: near((efficiency * fullPower) / fullSpeed),
      supply: supplyVoltage,
      source: 0.035,
      efficiency,
      heating: near(0.16),
      warming: 140,
      imbalance: 2.5 * (0.6 + 0.8 * random.uniform()),
      armA: plan.armA ?? 0.1,
      armB: plan.armB ?? 0.1,
    }
  },
  rest: () => ({ cap: null, speed: 0, angle: 0, temperature: ROOM_TEMPERATURE }),
  step(truth, m, [setpoint = 0], dt) {
    m.speed += (truth.speed * setpoint - m.speed) * (1 - Math.exp(-dt / FOLLOWS))
    m.angle = (m.angle + m.speed * dt) % (2 * Math.PI)
    const { lost } = electrical(truth, m.speed)
    m.temperature += (ROOM_TEMPERATURE + truth.heating * lost - m.temperature) * (1 - Math.exp(-dt / truth.warming))
    return null
  },
  reader(_, __, truth, c) {
    const share = (m: SpinMemory) => (m.speed / truth.speed) ** 2
    const torque = (m: SpinMemory) => truth.torque * share(m)
    switch (c.role) {
      case 'thrust':
        return m => truth.thrust * share(m)
      case 'forceA':
        return m => (0.52 * torque(m)) / truth.armA
      case 'forceB':
        return m => (0.48 * torque(m)) / truth.armB
      case 'voltage':
        return m => truth.supply - truth.source * electrical(truth, m.speed).current
      case 'current':
        return m => electrical(truth, m.speed).current
      case 'speed':
        return m => m.speed
      case 'temperature':
        return m => m.temperature
      case 'vibration':
        return m => truth.imbalance * share(m) * Math.sin(m.angle)
      default:
        return null
    }
  },
  // What is told or switched has no zero to wander; cells have.
  gauge: (_, c) => (c.kind === 'force' ? {} : { zero: 0, drift: 0, hysteresis: 0 }),
}

/** Small loads run at worse efficiency, and something flows at idle. */
function electrical(truth: SpinTruth, speed: number): { current: number; lost: number } {
  const shaft = truth.torque * (speed / truth.speed) ** 2 * speed
  const full = truth.torque * truth.speed
  const efficiency = truth.efficiency * (1 - 0.25 * Math.exp((-6 * shaft) / full))
  const power = shaft / efficiency + (speed > 0.5 ? 0.01 * full : 0)
  return { current: power / truth.supply, lost: power - shaft }
}

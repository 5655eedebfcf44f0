import { omitUndefined } from '../../method/omitUndefined'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import type { FlowPlan } from './plan'

interface FlowTruth {
  /** Of the curtain at small lifts, and the lift at which the throat takes over, as a share of the diameter. */
  coefficient: number
  throat: number
  /** Share by which a lift is off its smooth curve, and how wide around it. */
  dip: number
  dipAt: number
  leak: number
  drop: number
  diameter: number
  valves: number
}

interface Bench {
  testPressure: number
  diameter: number
  valves: number
  coefficient: number
}

const AIR = 1.2041

/** A valve that opens: the curtain first, then the throat; a seal that lets a little by. */
export const flowSpecimen: Specimen<FlowPlan, unknown, FlowTruth, SpecimenMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const bench = {
      ...{ testPressure: 7000, diameter: 0.03, valves: 1, coefficient: 0.6 },
      ...(plan.loading.kind === 'flow' ? omitUndefined(plan.loading.settings as Partial<Bench>) : {}),
    }
    return {
      coefficient: bench.coefficient * (1 + 0.03 * random.normal()),
      throat: 0.24 + 0.02 * random.normal(),
      dip: 0,
      dipAt: 0.2,
      leak: 2e-4 * (1 + random.uniform()),
      drop: bench.testPressure * (1 + 0.01 * random.normal()),
      diameter: bench.diameter,
      valves: bench.valves,
    }
  },
  rest: () => ({ cap: null }),
  step: () => null,
  reader(plan, _, truth, c) {
    if (plan.kind === 'map') {
      const y = plan.also.findIndex(a => a.name === 'y') + 1
      const radius = 1.1 * Math.max(...plan.rungs.map(r => Math.hypot(r.target, y > 0 ? r.also[y - 1]! : 0)), 1e-6)
      return c.role === 'q' ? (_m, applied) => dynamicPressure(truth, applied[0]!, applied[y] ?? 0, radius) : null
    }
    if (c.kind === 'volumeFlow') return (_m, [lift = 0]) => flowThrough(truth, lift)
    if (c.kind === 'pressure') return () => truth.drop
    return null
  },
  // Meters of a bench are zeroed before every row.
  gauge: () => ({ zero: 0 }),
}

/** Pa at a place in a round port: a turbulent profile, and the stream that a bend throws to one side. */
function dynamicPressure({ drop, coefficient }: FlowTruth, x: number, y: number, radius: number): number {
  const r = Math.min(1, Math.hypot(x, y) / radius)
  const hot = 0.25 * Math.exp(-(((x - 0.4 * radius) ** 2 + (y + 0.2 * radius) ** 2) / (0.35 * radius) ** 2))
  return coefficient ** 2 * drop * (1.1 * (1 - 0.85 * r) ** (1 / 7) + hot) ** 2
}

/** m³/s through one port set. Curtain area up to the throat, joined smoothly. */
export function flowThrough(
  { coefficient, throat, dip, dipAt, leak, drop, diameter, valves }: FlowTruth,
  lift: number,
): number {
  const share = Math.max(0, lift) / diameter
  const joined = throat * Math.tanh(share / throat)
  const hollow = 1 - dip * Math.exp(-(((share - dipAt) / 0.04) ** 2))
  return leak + coefficient * hollow * valves * Math.PI * diameter ** 2 * joined * Math.sqrt((2 * drop) / AIR)
}

/** Probe readings on a grid of a round port: dynamic pressures with a hot place, m and Pa. */
export function simulateMap({
  radius,
  step,
  mean,
  hotX,
  hotY,
  excess,
  seed,
}: {
  radius: number
  step: number
  mean: number
  hotX: number
  hotY: number
  excess: number
  seed: number
}): { x: number; y: number; q: number }[] {
  const random = new SeededRandom(seed)
  const rows: { x: number; y: number; q: number }[] = []
  for (let y = radius; y >= -radius - 1e-9; y -= step)
    for (let x = -radius; x <= radius + 1e-9; x += step) {
      const r = Math.hypot(x, y) / radius
      if (r > 1) continue
      // A turbulent profile, and the stream that the bend throws to one side.
      const hot = excess * Math.exp(-(((x - hotX) ** 2 + (y - hotY) ** 2) / (0.35 * radius) ** 2))
      const v = mean * (1.1 * (1 - 0.85 * r) ** (1 / 7) + hot + 0.01 * random.normal())
      rows.push({ x, y, q: (AIR / 2) * v * v })
    }
  return rows
}

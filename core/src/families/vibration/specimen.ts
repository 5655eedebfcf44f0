import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { topOf } from '../../plan/plan'
import { SeededRandom } from '../../statistics/random'
import type { VibrationPlan } from './plan'

interface VibrationTruth {
  /** Of two modes, Hz and share of critical. */
  f1: number
  z1: number
  f2: number
  z2: number
  seed: number
  /** Of the drive: Hz over the seconds since it came on; null for a random one. */
  tone: ((since: number) => number) | null
}

interface VibrationMemory extends SpecimenMemory {
  random: number
  drive: number
  /** s since the drive came on, and where its tone stands, rad. */
  since: number
  turn: number
  x1: number
  v1: number
  x2: number
  v2: number
}

/** Of the second mode where nothing else is known. */
const SECOND = 3.4

/**
 * Two modes on a shaken base, by the place of the gauge: the first bends one way, the second turns about the middle.
 */
export const vibrationSpecimen: Specimen<VibrationPlan, unknown, VibrationTruth, VibrationMemory> = {
  draw(plan, _, seed) {
    const random = new SeededRandom(seed)
    const f1 = (plan.before?.[0]?.frequency ?? (plan.minFrequency ?? 40) * 1.1) * (1 + 0.02 * random.normal())
    return {
      f1,
      z1: 0.025 * (1 + 0.2 * random.uniform()),
      f2: (plan.before?.[1]?.frequency ?? SECOND * f1) * (1 + 0.02 * random.normal()),
      z2: 0.018 * (1 + 0.2 * random.uniform()),
      seed,
      tone: toneOf(plan, f1),
    }
  },
  rest: truth => ({ cap: null, random: truth.seed | 0, drive: 0, since: 0, turn: 0, x1: 0, v1: 0, x2: 0, v2: 0 }),
  step(truth, m, [level = 0], dt) {
    if (truth.tone) {
      m.since = level > 0 ? m.since + dt : 0
      m.turn = (m.turn + 2 * Math.PI * truth.tone(m.since) * dt) % (2 * Math.PI)
      m.drive = Math.SQRT2 * level * Math.sin(m.turn)
    } else {
      const random = new SeededRandom(m.random)
      m.drive = level * random.normal()
      m.random = random.state
    }
    ;[m.x1, m.v1] = moved(truth.f1, truth.z1, m.x1, m.v1, m.drive, dt)
    ;[m.x2, m.v2] = moved(truth.f2, truth.z2, m.x2, m.v2, m.drive, dt)
    return null
  },
  readsCommanded: true,
  reader(plan, _, truth, c) {
    if (c.kind !== 'acceleration') return null
    if (c.role === plan.commanded.role) return m => m.drive
    const most = Math.max(...plan.channels.map(o => o.x ?? 0), 1e-9)
    const place = c.x === undefined ? 1 : c.x / most
    const [first, second] = [1.3 * Math.sin((Math.PI / 2) * place), -0.45 * Math.sin(1.5 * Math.PI * place)]
    return m =>
      m.drive +
      first * relative(truth.f1, truth.z1, m.x1, m.v1, m.drive) +
      second * relative(truth.f2, truth.z2, m.x2, m.v2, m.drive)
  },
  gauge: () => ({ zero: 0, drift: 0, hysteresis: 0 }),
}

/** Octave by octave over the hold at the top, or one frequency: where it is asked, else about the first mode. */
function toneOf(plan: VibrationPlan, f1: number): VibrationTruth['tone'] {
  if (plan.drive === 'random') return null
  if (plan.drive === 'dwell') return () => plan.dwellAt ?? f1
  const [from, to] = [plan.sweepFrom ?? f1 / 3, plan.sweepTo ?? 3 * f1]
  const top = plan.rungs[topOf(plan.rungs)]!
  const lasts = top.ramp + top.hold
  return since => from * (to / from) ** Math.min(1, since / lasts)
}

/** A base-driven oscillator after dt of a drive that stands, exactly. */
function moved(f: number, z: number, x: number, v: number, drive: number, dt: number): [number, number] {
  const w = 2 * Math.PI * f
  const wd = w * Math.sqrt(1 - z * z)
  const held = -drive / (w * w)
  const [E, C, S] = [Math.exp(-z * w * dt), Math.cos(wd * dt), Math.sin(wd * dt)]
  const [y, u] = [x - held, v]
  return [held + E * (y * C + ((u + z * w * y) / wd) * S), E * (u * C - ((z * w * u + w * w * y) / wd) * S)]
}

/** Acceleration against the base. */
const relative = (f: number, z: number, x: number, v: number, drive: number): number =>
  -drive - 2 * z * (2 * Math.PI * f) * v - (2 * Math.PI * f) ** 2 * x

import type { PlanView } from '../method/stages'
import type { PlanChannel } from '../plan/channels'
import type { Plan } from '../plan/plan'
import { SeededRandom } from '../statistics/random'
import { ROOM_TEMPERATURE, type Specimen, type SpecimenMemory } from './specimen'

interface GeneralTruth {
  strength: number
  /** Reading a unit of what is commanded, by role. */
  gains: Record<string, number>
  maxTarget: number
}

interface GeneralMemory extends SpecimenMemory {
  broken: boolean
  /** Part of the load that has crept in, and that warmth has followed. */
  crept: number
  warmed: number
}

const CREEP = { share: 0.012, time: 25 }
const WARMING_TIME = 60
/** Readings that grow as the load nears the strength: by this share of themselves over (strength/load − 1). */
const GROWTH = 0.03
const GROWING = new Set(['length', 'strain', 'angle'])
/** Where neither a calculation nor a prediction says what it carries, it is drawn around this many times the highest rung. */
const RESERVE = 1.2

/**
 * An article of a kind of test that brings no physics of its own: readings go with the load as the plan expects them, a
 * little off, with creep in holds and growth towards the strength, which lies around what is predicted.
 */
export function generalSpecimen(view: PlanView, predictedStrength: number | null): Specimen<Plan, unknown, GeneralTruth, GeneralMemory> {
  return {
    draw(plan, _, seed) {
      const random = new SeededRandom(seed)
      const strength = (predictedStrength ?? view.failure?.at ?? RESERVE * view.maxTarget) * (1.04 + 0.06 * random.normal())
      const own = new Map(view.channels.map(c => [c.role, c.expectedPeak]))
      // One place is read by both of a pair: they share what the article does there.
      const partner = (c: PlanChannel) => plan.channels.find(o => o.role === c.twin || o.twin === c.role)
      const peak = (c: PlanChannel) => own.get(c.role) ?? own.get(partner(c)?.role ?? '') ?? 0
      const off = new Map<string, number>()
      for (const c of plan.channels) off.set(c.role, off.get(partner(c)?.role ?? '') ?? 1.02 + 0.02 * random.normal())
      const isLoad = (c: PlanChannel) => partner(c)?.role === view.commanded.role
      return { strength, maxTarget: view.maxTarget, gains: Object.fromEntries(plan.channels.map(c => [c.role, isLoad(c) ? 1 : (off.get(c.role)! * (peak(c) - (c.kind === 'temperature' ? ROOM_TEMPERATURE : 0))) / view.maxTarget])) }
    },
    rest: () => ({ cap: null, broken: false, crept: 0, warmed: 0 }),
    step(truth, m, [load = 0], dt) {
      m.crept += (load - m.crept) * (1 - Math.exp(-dt / CREEP.time))
      m.warmed += (load - m.warmed) * (1 - Math.exp(-dt / WARMING_TIME))
      if (m.broken || load < strengthOf(truth, m)) return null
      m.broken = true
      return 'article broke'
    },
    reader(_, __, truth, c) {
      const gain = truth.gains[c.role] ?? 0
      if (c.kind === 'temperature') return m => ROOM_TEMPERATURE + gain * m.warmed
      if (!GROWING.has(c.kind)) return (_m, [load = 0]) => gain * load
      return (m, [load = 0]) => {
        const share = Math.min(0.95, Math.max(0, load / strengthOf(truth, m)))
        return gain * (load * (1 + (GROWTH * share) / (1 - share)) + CREEP.share * m.crept) * (m.broken ? 3 : 1)
      }
    },
  }
}

const strengthOf = ({ strength }: GeneralTruth, { cap }: SpecimenMemory): number => Math.min(strength, cap ?? Infinity)

import { topOf } from '../../plan/plan'
import type { Specimen, SpecimenMemory } from '../../rig/specimen'
import { SeededRandom } from '../../statistics/random'
import { predictArm, type StaticArticle } from './article'
import type { StaticPlan } from './plan'

/** What a simulated article and rig really do, SI. Nothing of it is known to the plan. */
export interface StaticTruth {
  compliance: number
  /** Load at which the article breaks, and at which the fixture gives way. */
  articleStrength: number
  fixtureStrength: number
  /**
   * Part of the elastic deflection that creeps in at a hold, its time constant, and the set that a full load leaves.
   */
  creepShare: number
  creepTime: number
  setAtStrength: number
  /** Zero readings of the untared channels, and noise (1σ). */
  loadOffset: number
  deflectionOffset: number
  loadNoise: number
  deflectionNoise: number
  strainNoise: number
}

interface StaticMemory extends SpecimenMemory {
  creep: number
  set: number
  broken: boolean
}

const QUIRKS = { creepShare: 0.012, creepTime: 25, strainNoise: 1.5e-6 }
/** The frame moves by this share of the deflection. */
const FRAME = 0.02
/** An article that is to give way early bends so much more by then. */
const EARLY_GROWTH = 0.3

type Arm = Pick<ReturnType<typeof predictArm>, 'compliance' | 'failureLoad' | 'strainPerForce'>

/** Of an article that nobody has described, at the highest rung: m, strain, and how much more it carries. */
const UNKNOWN = { deflection: 0.02, strain: 1e-3, reserve: 1.3 }

/** What the calculation says; an article that nobody has described bends as it may, so that it can be rehearsed. */
function armOf(plan: StaticPlan, article: StaticArticle | null): Arm {
  if (article && plan.loads.length > 0)
    return predictArm(article, plan.loads, plan.deflectionAt ?? article.length, plan.support)
  const top = plan.rungs[topOf(plan.rungs)]!.target
  return {
    compliance: UNKNOWN.deflection / top,
    failureLoad: UNKNOWN.reserve * top,
    strainPerForce: () => UNKNOWN.strain / top,
  }
}

/** An article a little softer than calculated and with strength around the calculation, as builds are. */
export const staticSpecimen: Specimen<StaticPlan, StaticArticle | null, StaticTruth, StaticMemory> = {
  draw(plan, article, seed) {
    const random = new SeededRandom(seed)
    const arm = armOf(plan, article)
    const compliance = arm.compliance * (1.03 + 0.02 * random.normal())
    const articleStrength = arm.failureLoad * (1.04 + 0.05 * random.normal())
    return {
      ...QUIRKS,
      compliance,
      articleStrength,
      fixtureStrength: Infinity,
      loadNoise: 4e-4 * articleStrength,
      deflectionNoise: 5e-4 * compliance * articleStrength,
      setAtStrength: 0.02 * compliance * articleStrength,
      loadOffset: 3e-3 * articleStrength * random.normal(),
      deflectionOffset: 2e-2 * compliance * articleStrength * random.normal(),
    }
  },
  rest: () => ({ cap: null, creep: 0, set: 0, broken: false }),
  /** Creep tends to its share of the elastic deflection; set grows with the load reached, steeply near the strength. */
  step(truth, m, [load = 0], dt) {
    m.creep += (truth.creepShare * truth.compliance * load - m.creep) * (1 - Math.exp(-dt / truth.creepTime))
    m.set = Math.max(m.set, truth.setAtStrength * (Math.max(0, load) / truth.articleStrength) ** 3)
    const strength = Math.min(truth.articleStrength, m.cap ?? Infinity)
    if (m.broken || load < Math.min(strength, truth.fixtureStrength)) return null
    m.broken = true
    return truth.fixtureStrength < strength ? 'fixture gave way' : 'article broke'
  },
  reader(plan, article, truth, c) {
    if (c.kind === 'strain') {
      const arm = armOf(plan, article)
      const perForce = (arm.strainPerForce(c.x ?? 0) * truth.compliance) / arm.compliance
      return (_, [load = 0]) => perForce * load
    }
    if (c.kind !== 'length') return null
    // A further gauge sees the frame move.
    if (c.role !== 'deflection') return (_, [load = 0]) => FRAME * truth.compliance * load
    return (m, [load = 0]) => {
      const softer = m.cap === null ? 1 : 1 + EARLY_GROWTH * Math.max(0, load / m.cap) ** 4
      return (truth.compliance * load * softer + m.creep) * (m.broken ? 3 : 1) + m.set
    }
  },
  gauge(truth, c) {
    if (c.role === 'load') return { zero: truth.loadOffset, noise: truth.loadNoise }
    if (c.kind === 'strain') return { zero: 0, noise: truth.strainNoise }
    if (c.kind !== 'length') return {}
    return { zero: c.role === 'deflection' ? truth.deflectionOffset : 0, noise: truth.deflectionNoise }
  },
}

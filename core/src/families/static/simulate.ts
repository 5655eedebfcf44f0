import type { RigBlock, RigCommand, RigPhase, RigState } from '../../method/stages'
import { SeededRandom } from '../../statistics/random'
import { predictArm, type StaticArticle } from './article'
import type { StaticPlan } from './plan'

/** What a simulated article and rig really do, SI. Nothing of it is known to the plan. */
export interface RigTruth {
  compliance: number
  /** Load at which the article breaks, and at which the fixture gives way. */
  articleStrength: number
  fixtureStrength: number
  /** Part of the elastic deflection that creeps in at a hold, its time constant, and the set that a full load leaves. */
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

/** Everything the simulated rig remembers. */
export interface StaticRigState extends RigState {
  /** Load that the phase began from. */
  from: number
  /** Phase to go back to after a pause. */
  paused: { phase: RigPhase; elapsed: number } | null
  /** Somebody said go at a rung that waits for it. */
  going: boolean
  creep: number
  set: number
  broken: boolean
  random: number
}

const UNLOAD_TIME = 4
const LEFT_AFTER_BREAK = 0.12

/**
 * An article drawn for the simulated rig: a little softer than calculated and with strength around the calculation,
 * as builds are. The same seed gives the same article.
 */
export function drawTruth(plan: StaticPlan, article: StaticArticle, seed: number): RigTruth {
  const random = new SeededRandom(seed)
  const arm = predictArm(article, plan.loads, plan.deflectionAt, plan.support)
  const compliance = arm.compliance * (1.03 + 0.02 * random.normal())
  const articleStrength = arm.failureLoad * (1.04 + 0.05 * random.normal())
  return { ...QUIRKS, compliance, articleStrength, fixtureStrength: Infinity, loadNoise: 4e-4 * articleStrength, deflectionNoise: 5e-4 * compliance * articleStrength, setAtStrength: 0.02 * compliance * articleStrength, loadOffset: 3e-3 * articleStrength * random.normal(), deflectionOffset: 2e-2 * compliance * articleStrength * random.normal() }
}

const QUIRKS = { creepShare: 0.012, creepTime: 25, strainNoise: 1.5e-6 }

export const startRig = (seed: number): StaticRigState => ({ t: 0, rung: 0, phase: 'hold', elapsed: 0, from: 0, paused: null, load: 0, going: false, creep: 0, set: 0, broken: false, end: null, random: seed | 0 })

/** What a command makes of the state; commands that make no sense now change nothing. */
export function commandRig(s: StaticRigState, command: RigCommand): StaticRigState {
  if (s.phase === 'ended' || s.phase === 'unloading') return s
  if (command === 'abort') return { ...s, phase: 'unloading', elapsed: 0, from: s.load, paused: null, end: 'aborted' }
  if (command === 'hold') return s.phase === 'paused' ? s : { ...s, phase: 'paused', paused: { phase: s.phase, elapsed: s.elapsed } }
  if (command === 'go') return s.phase === 'waiting' ? { ...s, going: true } : s
  return s.paused ? { ...s, ...s.paused, paused: null } : s
}

/**
 * The next `n` samples of a run. Mutates nothing: returns the new state with the block.
 *
 * @param n  samples at the plan's rate
 */
export function advanceRig(plan: StaticPlan, article: StaticArticle, truth: RigTruth, state: StaticRigState, n: number): { state: StaticRigState; block: RigBlock } {
  const s = { ...state }
  const random = new SeededRandom(s.random)
  const dt = 1 / plan.rate
  const arm = predictArm(article, plan.loads, plan.deflectionAt, plan.support)
  const read = plan.channels.filter(c => c.expression === undefined)
  const strains = read.filter(c => c.kind === 'strain').map(c => ({ role: c.role, perForce: (arm.strainPerForce(c.x ?? 0) * truth.compliance) / arm.compliance }))
  const others = read.filter(c => c.kind !== 'strain' && c.role !== 'load' && c.role !== 'deflection')
  const block: RigBlock = { t: [], channels: Object.fromEntries(read.map(c => [c.role, []])) }
  for (let i = 0; i < n && s.phase !== 'ended'; i++) {
    step(s, plan, truth, dt)
    const deflection = (truth.compliance * s.load + s.creep) * (s.broken ? 3 : 1) + s.set
    block.t.push(s.t)
    block.channels['load']!.push(s.load + truth.loadOffset + truth.loadNoise * random.normal())
    block.channels['deflection']!.push(deflection + truth.deflectionOffset + truth.deflectionNoise * random.normal())
    for (const { role, perForce } of strains) block.channels[role]!.push(perForce * s.load + truth.strainNoise * random.normal())
    // A further channel sees the frame move: a little of the deflection.
    for (const { role } of others) block.channels[role]!.push(0.02 * truth.compliance * s.load + truth.deflectionNoise * random.normal())
    s.t = (Math.round(s.t * plan.rate) + 1) / plan.rate
  }
  s.random = random.state
  return { state: s, block }
}

function step(s: StaticRigState, plan: StaticPlan, truth: RigTruth, dt: number): void {
  if (s.phase === 'paused') return relax(s, truth, dt)
  s.elapsed += dt
  const rung = plan.rungs[s.rung]!
  if (s.phase === 'ramp') {
    s.load = s.from + (rung.target - s.from) * Math.min(1, s.elapsed / rung.ramp)
    if (s.elapsed >= rung.ramp - dt / 2) enter(s, 'hold')
  } else if (s.phase === 'hold') {
    if (s.elapsed >= rung.hold - dt / 2) {
      if (rung.decision) enter(s, 'waiting')
      else climb(s, plan)
    }
  } else if (s.phase === 'waiting') {
    if (s.going) climb(s, plan)
  } else {
    s.load = s.from * Math.max(0, 1 - s.elapsed / UNLOAD_TIME)
    if (s.elapsed >= UNLOAD_TIME + plan.minHold) s.phase = 'ended'
  }
  relax(s, truth, dt)
  breakIfDue(s, truth)
}

function climb(s: StaticRigState, plan: StaticPlan): void {
  s.going = false
  if (s.rung + 1 < plan.rungs.length) {
    s.rung++
    enter(s, 'ramp')
  } else {
    s.end = 'ladder done'
    s.phase = 'ended'
  }
}

function enter(s: StaticRigState, phase: RigPhase): void {
  s.phase = phase
  s.elapsed = 0
  s.from = s.load
}

/** Creep tends to its share of the elastic deflection; set grows with the load reached, steeply near the strength. */
function relax(s: StaticRigState, truth: RigTruth, dt: number): void {
  const wanted = truth.creepShare * truth.compliance * s.load
  s.creep += (wanted - s.creep) * (1 - Math.exp(-dt / truth.creepTime))
  s.set = Math.max(s.set, truth.setAtStrength * (s.load / truth.articleStrength) ** 3)
}

function breakIfDue(s: StaticRigState, truth: RigTruth): void {
  if (s.broken || s.load < Math.min(truth.articleStrength, truth.fixtureStrength)) return
  s.broken = true
  s.end = truth.fixtureStrength < truth.articleStrength ? 'fixture gave way' : 'article broke'
  s.load *= LEFT_AFTER_BREAK
  enter(s, 'unloading')
}

/** A whole run at once, as the live rig would give it, with a go at every rung that waits for one. */
export function simulateStatic(plan: StaticPlan, article: StaticArticle, truth: RigTruth, seed: number): { state: StaticRigState; block: RigBlock } {
  const seconds = plan.rungs.reduce((s, r) => s + r.hold + r.ramp, 0) + UNLOAD_TIME + plan.minHold
  return advanceRig(withoutWaiting(plan), article, truth, startRig(seed), Math.ceil(seconds * plan.rate) + 1)
}

const withoutWaiting = (plan: StaticPlan): StaticPlan => ({ ...plan, rungs: plan.rungs.map(r => ({ ...r, decision: false })) })

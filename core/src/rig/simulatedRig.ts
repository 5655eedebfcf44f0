import type { PlanView } from '../plan/planView'
import type { PlanChannel } from '../plan/channels'
import type { Plan } from '../plan/plan'
import { SeededRandom } from '../statistics/random'
import { moveActuator, type ActuatorState } from './actuator'
import type { RigBlock } from './block'
import { ACTED, applyFaults, type Fault, type FaultMemory } from './faults'
import { drawGauge, readGauge, type GaugeMake } from './gauge'
import {
  breakOff,
  commandLadder,
  startLadder,
  stepLadder,
  targetOf,
  type Ladder,
  type LadderState,
  type RigCommand,
} from './ladder'
import { setPointsOf } from './setPoint'
import { LEFT_AFTER_BREAK, ROOM_TEMPERATURE, type Specimen, type SpecimenMemory } from './specimen'

/** Everything that a run remembers of itself between two blocks; plain data. */
export interface RigState extends LadderState {
  /** What is on the article, in what is commanded. */
  load: number
}

/** What the stand-in for a rig remembers beside that. */
export interface SimulatedState extends RigState {
  actuators: ActuatorState[]
  memory: SpecimenMemory
  /** Play of each gauge. */
  slack: Record<string, number>
  random: number
  /** Steps taken, and samples given in each group. */
  steps: number
  given: number[]
  faults: Fault[]
  faultMemory: FaultMemory
  /** Share of the load that a leak has taken. */
  leaked: number
  slipped: boolean
}

interface Reader {
  role: string
  truth(memory: SpecimenMemory, applied: readonly number[]): number
  make: GaugeMake
}

interface Group {
  rate: number
  readers: Reader[]
}

export interface SimulatedRigOptions {
  plan: Plan
  view: PlanView
  article: unknown
  specimen: Specimen
  seed: number
  /** What the article really does, where it is not drawn from the seed. */
  truth?: unknown
  /** What is predicted of its strength, in what is commanded. */
  strength?: number | null
}

/** What the rig itself says it is set to. */
const SET_POINT = (role: string, actuator: number): Reader => ({
  role,
  truth: (_, applied) => applied[actuator] ?? 0,
  make: { zero: 0, drift: 0, noise: 0, hysteresis: 0, step: 0, range: Infinity },
})

/** An actuator within this share of the highest rung has arrived. */
const ARRIVED = 0.01
/** Where nothing is known of a channel's range. */
const SOME_RANGE = 1
const LEAK_MADE_UP = 2

/**
 * Stand-in for a rig: follows the ladder with actuators that lag and overshoot, an article that answers as its family
 * says, gauges with noise, drift, hysteresis and steps, at several rates, and faults. The same seed gives the same
 * samples.
 */
export class SimulatedRig {
  readonly groups: Group[]
  private readonly ladder: Ladder
  private readonly truth: unknown
  private readonly fastest: number
  /** Steps a second: the fastest rate. */
  private readonly rate: number

  constructor(private readonly o: SimulatedRigOptions) {
    const { plan, view, specimen, seed } = o
    this.ladder = { rungs: plan.rungs, by: 'set' }
    this.truth = o.truth ?? specimen.draw(plan, o.article, seed, o.strength)
    const random = new SeededRandom(seed ^ 0x9a06e)
    const read = plan.channels.filter(c => c.expression === undefined)
    const rateOf = new Map(view.channels.map(c => [c.role, c.role === view.commanded.role ? plan.rate : c.rate]))
    const rates = [plan.rate, ...new Set(read.map(c => rateOf.get(c.role)!).filter(r => r !== plan.rate))]
    this.groups = rates.map((rate, i) => ({
      rate,
      readers: [
        ...read.filter(c => rateOf.get(c.role) === rate).map(c => this.readerOf(c, random)),
        // What nothing reads is recorded as it is set.
        ...(i === 0 ? setPointsOf(plan).map(s => SET_POINT(s.role, s.actuator)) : []),
      ],
    }))
    this.rate = Math.max(...rates)
    const climbs = plan.rungs.map((r, i) => Math.abs(r.target - (plan.rungs[i - 1]?.target ?? 0)) / r.ramp)
    this.fastest = 2 * Math.max(...climbs, view.maxTarget / 4)
  }

  start(seed: number, faults: readonly Fault[] = []): SimulatedState {
    const ladder = startLadder(this.ladder)
    return {
      ...ladder,
      load: 0,
      actuators: ladder.set.map(() => ({ position: 0, velocity: 0 })),
      memory: this.o.specimen.rest(this.truth),
      slack: {},
      random: seed | 0,
      steps: 0,
      given: this.groups.map(() => 0),
      faults: [...faults],
      faultMemory: {},
      leaked: 0,
      slipped: false,
    }
  }

  command(s: SimulatedState, command: RigCommand, seconds?: number): SimulatedState {
    return commandLadder(this.ladder, s, command, seconds)
  }

  /**
   * The next `n` samples at the plan's rate, and what the other rates give meanwhile. Mutates nothing: returns the new
   * state with one block for each rate.
   *
   * @param within  no further than where the ladder leaves its phase: what reads the blocks knows on which rung it is
   */
  advance(state: SimulatedState, n: number, within = false): { state: SimulatedState; blocks: RigBlock[] } {
    const s: SimulatedState = {
      ...state,
      actuators: state.actuators.map(a => ({ ...a })),
      memory: { ...state.memory },
      slack: { ...state.slack },
      given: [...state.given],
      faultMemory: { ...state.faultMemory },
    }
    const random = new SeededRandom(s.random)
    const blocks = this.groups.map(({ readers }, group): RigBlock => ({
      group,
      t: [],
      channels: Object.fromEntries(readers.map(r => [r.role, []])),
    }))
    const until = s.given[0]! + n
    while (s.given[0]! < until && s.phase !== 'ended') {
      this.sample(s, blocks, random)
      if (s.given[0]! < until) this.step(s)
      if (within && (s.rung !== state.rung || s.phase !== state.phase)) break
    }
    s.random = random.state
    return { state: s, blocks: blocks.map(b => applyFaults(s.faults, b, s.faultMemory)) }
  }

  /** A whole run at once, with a go at every rung that waits for one. */
  whole(seed: number, faults: readonly Fault[] = []): { state: SimulatedState; blocks: RigBlock[] } {
    const rig = new SimulatedRig({
      ...this.o,
      truth: this.truth,
      plan: { ...this.o.plan, rungs: this.o.plan.rungs.map(r => ({ ...r, decision: false })) },
    })
    return rig.advance(rig.start(seed, faults), Infinity)
  }

  private readerOf(c: PlanChannel, random: SeededRandom): Reader {
    const { plan, view, specimen, article } = this.o
    const make = { ...drawGauge(this.rangeOf(c), plan.acquisition.bits, random), ...specimen.gauge?.(this.truth, c) }
    const actuator = c.role === view.commanded.role ? 0 : plan.also.findIndex(a => a.name === c.role) + 1
    const truth =
      actuator > 0 || (c.role === view.commanded.role && !specimen.readsCommanded)
        ? (_: SpecimenMemory, applied: readonly number[]) => applied[actuator] ?? 0
        : (specimen.reader(plan, article, this.truth, c) ?? this.guess(c))
    return { role: c.role, truth, make }
  }

  /** What physics says nothing of reads in proportion, as planned; a temperature is that of the room. */
  private guess({ role, kind }: PlanChannel): Reader['truth'] {
    const peak = this.o.view.channels.find(v => v.role === role)?.expectedPeak ?? 0
    return kind === 'temperature' ? () => ROOM_TEMPERATURE : (_, [load = 0]) => (peak * load) / this.o.view.maxTarget
  }

  /** Full scale of its sensor, or one that suits what is expected of it, of its twin, or of what is commanded. */
  private rangeOf(c: PlanChannel): number {
    const { view } = this.o
    const known = [c.role, c.twin ?? '', this.o.plan.channels.find(o => o.twin === c.role)?.role ?? '']
      .map(role => view.channels.find(v => v.role === role))
      .filter(v => v !== undefined)
    const fullScale = known.map(v => v.fullScale).find(v => v !== null)
    const peak = Math.max(0, ...known.map(v => Math.abs(v.expectedPeak ?? 0)))
    return (
      fullScale ??
      (1.5 * peak ||
        (c.kind === view.commanded.kind
          ? 1.5 * view.maxTarget
          : c.kind === 'temperature'
            ? 2 * ROOM_TEMPERATURE
            : SOME_RANGE))
    )
  }

  /** Gives the samples of every rate that is due. */
  private sample(s: SimulatedState, blocks: readonly RigBlock[], random: SeededRandom): void {
    const now = s.steps / this.rate
    const applied = this.applied(s)
    this.groups.forEach(({ rate, readers }, g) => {
      if (s.given[g]! / rate > now + 0.25 / this.rate) return
      const { t, channels } = blocks[g]!
      const stamp = s.given[g]! / rate
      t.push(stamp)
      for (const { role, truth, make } of readers) {
        const value = truth(s.memory, applied)
        const read = readGauge(make, s.slack[role] ?? value, value, stamp, random)
        s.slack[role] = read.slack
        channels[role]!.push(read.reading)
      }
      s.given[g]!++
    })
  }

  private applied(s: SimulatedState): number[] {
    return s.actuators.map((a, i) => (i === 0 ? a.position * (1 - s.leaked) : a.position))
  }

  private step(s: SimulatedState): void {
    const { view, specimen } = this.o
    const dt = 1 / this.rate
    const main = s.actuators[0]!
    this.befall(s, dt)
    const arrived = Math.abs(main.position - targetOf(this.ladder, s)) <= ARRIVED * view.maxTarget
    stepLadder(this.ladder, s, dt, arrived)
    s.steps++
    s.t = s.steps / this.rate
    s.actuators.forEach((a, i) => moveActuator(a, s.set[i]!, dt, i === 0 ? this.fastest : Infinity))
    const end = specimen.step(this.truth, s.memory, this.applied(s), dt)
    if (end) {
      for (const a of s.actuators) Object.assign(a, { position: a.position * LEFT_AFTER_BREAK, velocity: 0 })
      s.set = s.set.map(v => v * LEFT_AFTER_BREAK)
      breakOff(s, end)
    }
    s.load = main.position * (1 - s.leaked)
  }

  /** What faults do to rig and article. */
  private befall(s: SimulatedState, dt: number): void {
    for (const f of s.faults) {
      if (s.t < f.at) continue
      if (f.kind === 'slips' && !s.slipped) {
        s.slipped = true
        s.actuators[0] = { position: s.actuators[0]!.position * (1 - ACTED.slip), velocity: 0 }
      }
      if (f.kind === 'leaks')
        s.leaked =
          s.phase === 'ramp' || s.phase === 'unloading'
            ? s.leaked * Math.exp(-dt / LEAK_MADE_UP)
            : s.leaked + ACTED.leakRate * dt
      if (f.kind === 'gives-early') s.memory.cap = ACTED.strengthLeft * this.o.view.maxTarget
    }
  }
}

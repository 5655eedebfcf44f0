import {
  formatQuantity,
  hasZero,
  HypometError,
  liveKindOf,
  LiveOwn,
  nextLoading,
  isReadAfter,
  readingAt,
  readsCommanded,
  struckOut,
  Tare,
  Watcher,
  withSetPoint,
  type DeclaredOwn,
  type LiveFlag,
  type OwnLimit,
  type Plan,
  type PlanView,
  type RigBlock,
  type RigCommand,
  type RigState,
  type UnitPreference,
} from '@hypomet/core'
import type { LiveEvent } from '../db/schema'
import { AbortOutputs } from './abortOutputs'
import { causesOf } from './causes'
import type { CrewDriver } from './drivers/crew'
import type { Driver, Said } from './drivers/driver'
import type { LiveFrame, LiveNow } from './frame'
import { KindOfRun } from './kindOfRun'
import { isLower, Readout } from './readout'
import type { RunGroup } from '../db/tests/runs'
import type { Recorder } from '../db/records/recorder'
import { SilenceGuard } from './silenceGuard'
import { FIRST_WAIT, FLUSH_MS, LONGEST_WAIT, RunStore } from './runStore'
import { Strips } from './strips'

const TICK_MS = 33
/** Frames between two that say everything. */
const NOW_EVERY = 6
const POINTS_A_FRAME = 3
/** A logger whose stamps run ahead of this server's clock by more than this, s, has a clock of its own. */
const AHEAD = 0.5

export interface LiveOptions {
  runId: number
  testId: number
  /** Of the test, as people call it. */
  title: string
  family: string
  plan: Plan
  view: PlanView
  pace: number
  /** s on the run's clock when this process takes it up. */
  begin: number
  controls: string
  groups: RunGroup[]
  own: DeclaredOwn[]
  ownLimits: OwnLimit[]
  driver: Driver
  prefer: UnitPreference
  /** Null for a rehearsal, of which nothing is stored. */
  recorder: Recorder | null
  /** What is told once it is over. */
  ended(what: { t: number; end: string; events: LiveEvent[] }): Promise<void>
}

/** A run as every page of the application knows of it. */
export interface Going {
  runId: number
  testId: number
  title: string
  isRehearsal: boolean
  rung: number
  rungs: number
  phase: RigState['phase']
  /** What unloads on an abort: the simulated rig by itself, an output, or nothing but people. */
  unloads: 'rig' | 'output' | 'people'
}

export interface Console {
  who: string
  /** Channels that are drawn as strips. */
  roles: string[]
  send(frame: LiveFrame): void
}

/**
 * A run that goes on: takes what its driver gives, records every sample, watches at full rate, and sends consoles a
 * thinned stream. What is on the disk is never older than a flush, and the run's memory is stored with it.
 */
export class LiveRun {
  readonly readout: Readout
  private readonly watcher: Watcher
  private readonly tare: Tare
  private readonly guard: SilenceGuard | null
  /** What of it is its kind's own. */
  private readonly kind: KindOfRun
  private readonly outputs: AbortOutputs
  private isLetGo = false
  private readonly strips: Strips
  private readonly own: LiveOwn | null
  /** By rate, what came last before there was a zero. */
  private readonly beforeZero = new Map<number, RigBlock>()
  private readonly consoles = new Set<Console>()
  private readonly events: LiveEvent[] = []
  private timers: NodeJS.Timeout[] = []
  private readonly store: RunStore
  private controller: string
  private begun = 0
  private frames = 0
  private fresh: { t: number[]; commanded: number[]; read: number[] } = { t: [], commanded: [], read: [] }
  private latency = { last: 0, worst: 0 }
  private clockSaid = false
  private closing: Promise<void> | null = null
  onClosed: (() => void) | undefined

  constructor(private readonly o: LiveOptions) {
    const { plan, view } = o
    this.tare = new Tare(view.commanded.role, view.maxTarget)
    const { isLively, isAbsolute } = liveKindOf(o.family) ?? {}
    this.readout = new Readout(plan, view, o.driver.isByHand ?? false, this.tare, isLively, isAbsolute)
    if (o.driver.follower) o.driver.follower.zeroOf = () => this.readout.zeroOf(view.commanded.role)
    this.kind = new KindOfRun({
      family: o.family,
      plan,
      view,
      prefer: o.prefer,
      isByHand: o.driver.isByHand ?? false,
      zeroOf: role => this.readout.zeroOf(role),
      keep: block => this.store.keep(block),
      tell: ({ kind, t, note, value, reading }) => this.addEvent({ kind, t, note, value, reading, by: 'rig' }),
    })
    // What is set and not read falls silent on every way from one rung to the next.
    const derived = plan.channels.filter(c => c.expression !== undefined).map(c => c.role)
    const read = new Set(
      [...o.groups.flatMap(g => g.roles), ...derived].filter(r => plan.channels.some(c => c.role === r)),
    )
    this.guard = o.driver.isByHand ? null : new SilenceGuard(plan, view, read, o.pace)
    // What is rehearsed reaches nothing outside.
    this.outputs = new AbortOutputs(o.recorder ? plan.onAbort : [], (isTaken, words, output) =>
      this.note(isTaken ? 'abort output' : 'abort output failed', 'rig', words, output),
    )
    this.watcher = new Watcher({
      rules: plan.watch,
      channels: plan.channels,
      commanded: view.commanded.role,
      maxTarget: view.maxTarget,
      prefer: o.prefer,
      zeroOf: role => this.readout.zeroOf(role),
      ranges: Object.fromEntries(
        view.channels.flatMap(c => (c.fullScale === null || c.expression !== null ? [] : [[c.role, c.fullScale]])),
      ),
      rates: Object.fromEntries(view.channels.map(c => [c.role, c.rate])),
    })
    this.strips = new Strips([...new Set([...o.groups.flatMap(g => g.roles), ...derived])])
    this.own =
      o.own.length === 0
        ? null
        : new LiveOwn({
            own: o.own,
            limits: o.ownLimits,
            channels: view.channels,
            guide: view.commanded.role,
            zeroOf: role => (isAbsolute ? 0 : this.tare.zeroOf(role)),
            show: (si, kind) => formatQuantity(si, kind, { prefer: o.prefer, digits: 4 }),
          })
    this.controller = o.controls
    this.store = new RunStore({
      runId: o.runId,
      testId: o.testId,
      groups: o.groups,
      recorder: o.recorder,
      memory: () => ({ state: o.driver.state, controls: this.controller }),
      note: words => this.note('recorder', 'recorder', words),
      failed: () => this.command('hold', 'recorder'),
    })
  }

  start(): void {
    this.begun = performance.now()
    this.o.driver.onArrival = () => this.take()
    this.o.driver.start()
    this.timers = [setInterval(() => this.tick(), TICK_MS), setInterval(() => void this.store.flush(), FLUSH_MS)]
  }

  /**
   * Samples of before this process, so that zeros and watch rules know them: all channels on the first rung, and the
   * guides.
   */
  prime(zero: Record<string, Float64Array>, guides: Record<string, Float64Array>, events: readonly LiveEvent[]): void {
    const { t: times = new Float64Array(), ...rest } = zero
    const block: RigBlock = {
      t: Array.from(times),
      channels: Object.fromEntries(Object.entries(rest).map(([role, v]) => [role, Array.from(v)])),
    }
    const tared = events.findLast(e => e.kind === 'tare')
    this.tare.feed(block)
    if (tared) this.tare.take(tared.t)
    const reached = events.flatMap(e =>
      e.kind === 'rung reached' && e.rung !== null && e.value !== null && e.reading !== null
        ? [{ rung: e.rung, value: e.value, reading: e.reading }]
        : [],
    )
    this.readout.prime(block, guides, reached)
    this.events.push(...events)
  }

  join(console: Console): () => void {
    this.consoles.add(console)
    console.send({ ...this.frame(), ...this.readout.heard, events: this.events, now: this.now() })
    return () => this.consoles.delete(console)
  }

  /** Which channels a console draws; what they did in the last half minute comes at once. */
  draw(console: Console, roles: string[]): void {
    console.roles = roles
    console.send({ ...this.frame(), strips: this.strips.history(roles) })
  }

  /** Anybody may hold, stop or abort; going on is for who has the controls. @throws HypometError `no-controls` */
  command(command: RigCommand, by: string, note = '', seconds?: number): void {
    if (command === 'resume' || command === 'go' || command === 'count-down' || command === 'reached')
      this.assertControls(by)
    const before = this.o.driver.state
    this.o.driver.command(command, seconds)
    if (command === 'abort') this.outputs.fire()
    const { state } = this.o.driver
    if (
      state.phase === before.phase &&
      state.end === before.end &&
      state.going === before.going &&
      state.countdown === before.countdown &&
      state.isReached === before.isReached
    )
      return
    this.note(
      command === 'count-down' ? 'baseline' : command,
      by,
      command === 'count-down' ? `${seconds ?? 10} s, then load` : note,
    )
  }

  /** An abort that is accepted is on the disk before it is answered, unless the disk keeps it waiting too long. */
  async settled(): Promise<{ isStored: boolean }> {
    return { isStored: await this.store.settled() }
  }

  /**
   * Takes the zero anew, from the last second. With a load on that is said first.
   *
   * @throws HypometError `tare-loaded` while a load is on and nobody has confirmed it
   */
  takeTare(by: string, isConfirmed: boolean): void {
    const on = this.tare.loadOn()
    const { kind } = this.o.view.commanded
    const words = formatQuantity(on, kind, { prefer: this.o.prefer, digits: 3 })
    if (this.tare.isLoaded && !isConfirmed)
      throw new HypometError(
        'tare-loaded',
        `${words} is on: a zero taken now takes that off every reading from here on. Say so if it is meant.`,
        { path: 'note' },
      )
    this.tareNow(by, this.tare.isLoaded ? `with ${words} on, confirmed` : '')
  }

  private tareNow(by: string, how: string): void {
    const { t } = this.o.driver.state
    const { zeros } = this.tare.take(t)
    const { commanded, read, channels } = this.o.view
    // What is set has no zero of its own.
    const { role, kind } = readsCommanded(this.o.plan) && hasZero(commanded.kind) ? commanded : read
    const label = channels.find(c => c.role === role)?.label ?? commanded.label
    const { mean = 0, sd = 0 } = zeros[role] ?? {}
    const show = (si: number) => formatQuantity(si, kind, { prefer: this.o.prefer, digits: 2 })
    this.note(
      'tare',
      by,
      `zero of ${Object.keys(zeros).length} channels; ${label.toLowerCase()} ${show(mean)}, scatter ` +
        `${show(sd)}${how ? `; ${how}` : ''}`,
    )
  }

  /** Gives up what a store does not take, so that the run can be left; what was stored stays. */
  letGo(by: string): void {
    if (this.store.problem === '') return
    this.note('let go', by, `${this.store.waiting} samples that could not be stored are given up`)
    this.isLetGo = true
  }

  going(): Omit<Going, 'runId'> {
    const { rung, phase } = this.o.driver.state
    const { view, testId, title, recorder, driver } = this.o
    const unloads = driver.unloads ? 'rig' : this.outputs.any ? 'output' : 'people'
    return { testId, title, isRehearsal: recorder === null, rung: rung + 1, rungs: view.rungs.length, phase, unloads }
  }

  /** Hands the controls on, or takes them: both are written down. */
  passControls(by: string, to: string): void {
    if (to === this.controller) return
    if (to !== by) this.assertControls(by)
    this.note(
      to === by ? 'controls taken' : 'controls passed',
      by,
      to === by ? `from ${this.controller || 'nobody'}` : `to ${to}`,
    )
    this.controller = to
    this.broadcast({ ...this.frame(), now: this.now() })
  }

  /** A reading as it was shouted, SI, beside what the gauge says at this moment. */
  shout(by: string, reading: number, note: string): void {
    this.addEvent({ kind: 'call-out', reading, note: note || 'called-out reading', by })
  }

  /**
   * What people read with the load on, by role, SI; only where nobody else reads. @throws HypometError `not-by-hand`
   */
  read(by: string, readings: Record<string, number>): void {
    const driver = this.o.driver as Partial<CrewDriver> & Driver
    if (!driver.read)
      throw new HypometError(
        'not-by-hand',
        'This run is read by a rig or a logger; shout a reading beside it instead.',
        { path: 'readings' },
      )
    this.assertControls(by)
    const { commanded, read } = this.o.view
    // What is read before anything is on is what the dials stand at.
    if (this.o.driver.state.rung === 0 && this.o.driver.state.phase !== 'unloading') this.readZero(by, readings)
    const target = this.target()
    const stands = driver.read(readings, target)
    const load = readings[commanded.role]
    this.addEvent({
      kind: 'call-out',
      value: load ?? this.readout.lastOf(commanded.role) ?? target,
      reading: readings[read.role] ?? null,
      note:
        stands === null || stands === 'reached'
          ? 'read by hand'
          : this.againstRung(stands, load ?? this.readout.lastOf(commanded.role) ?? 0, target),
      by,
      role: Object.keys(readings).join(' '),
    })
  }

  /**
   * A reading that was written down wrong is struck out, the right one beside it: both stay. SI.
   *
   * @param at  s on the run's clock when it was read
   * @throws HypometError `no-reading`
   */
  strike(by: string, at: number, role: string, right: number, note: string): void {
    const driver = this.o.driver as Partial<CrewDriver> & Driver
    this.assertControls(by)
    const found = driver.correct ? readingAt(this.events, at, role) : undefined
    const { said, words } = struckOut(this.o, found, { at, role, right, note })
    // One that nobody has read since stands until now: from here on the right one does.
    if (!isReadAfter(this.events, at, role)) {
      driver.correct?.(role, right)
      // What was read before anything is on is the zero.
      if (said.rung === 0) this.readZero(by, { [role]: right })
    }
    this.readout.forget(said.rung)
    this.addEvent({ ...words, t: at, rung: said.rung, by })
  }

  private readZero(by: string, readings: Readonly<Record<string, number>>): void {
    const { t } = this.o.driver.state
    this.tare.set({
      t,
      zeros: Object.fromEntries(Object.entries(readings).map(([role, mean]) => [role, { mean, sd: 0, n: 1 }])),
    })
    this.note('tare', by, 'as the dials read before anything is on', Object.keys(readings).join(' '))
  }

  /** What a load that was called out is to its rung, in the campaign's units. */
  private againstRung(stands: 'short' | 'above', load: number, target: number): string {
    const { kind } = this.o.view.commanded
    const show = (si: number) => formatQuantity(si, kind, { prefer: this.o.prefer, digits: 4 })
    return `${show(load)} called out, rung is ${show(target)}: ${stands === 'short' ? 'not reached' : 'above it'}`
  }

  /**
   * The article parted: nothing is on it any more. What was seen is kept with the run, and the run is over.
   *
   * @param peak  the largest load that somebody read or heard, SI
   */
  broke(by: string, { peak, words }: { peak: number | null; words: string }): void {
    const { commanded } = this.o.view
    const { rung, phase } = this.o.driver.state
    if (phase === 'ended') return
    this.o.driver.command('broke')
    this.addEvent({ kind: 'article broke', value: peak ?? this.readout.lastOf(commanded.role), note: words, by, rung })
  }

  /** A load that no rung plans, written down with its size before it goes on. SI. */
  deviate(by: string, size: number, note: string): void {
    this.addEvent({ kind: 'deviation', value: size, reading: null, note, by })
  }

  /** A reading called out, or a mark, at this moment. */
  note(kind: string, by: string, note = '', role: string | null = null): void {
    this.addEvent({ kind, note, by, role })
  }

  /** A frame without samples: where it stands now. */
  frame(): LiveFrame {
    const { t, rung, phase, elapsed, end, countdown } = this.o.driver.state
    return {
      t: [],
      commanded: [],
      read: [],
      state: { t, rung, phase, elapsed, end, countdown },
      events: [],
      closed: false,
    }
  }

  async stop(): Promise<void> {
    this.timers.forEach(clearInterval)
    this.timers = []
    this.o.driver.stop()
    // What came while an earlier block was being stored goes out as well.
    await this.store.flush()
    await this.store.flush()
  }

  private assertControls(by: string): void {
    if (by !== this.controller)
      throw new HypometError(
        'no-controls',
        `${this.controller || 'Nobody'} has the controls; take them first, or ask. Anybody may hold or abort.`,
      )
  }

  private target(): number {
    const { phase, rung } = this.o.driver.state
    return phase === 'unloading' || phase === 'ended' ? 0 : this.o.view.rungs[rung]!.target
  }

  private elapsed(): number {
    return this.o.begin + ((performance.now() - this.begun) / 1000) * this.o.pace
  }

  private tick(): void {
    this.take()
    this.send()
    if (this.o.driver.state.phase === 'ended') void this.finish()
  }

  /** What has come: looked at in full, kept for the store, thinned for the consoles. */
  private take(): void {
    if (this.closing) return
    const elapsed = this.elapsed()
    const before = this.o.driver.state
    const { blocks, said, arrived } = this.o.driver.poll(elapsed)
    for (const block of blocks) this.look(block, before, arrived)
    this.kind.leave(before, this.o.driver.state)
    this.guardSilence()
    this.proposeTare(before)
    if (blocks.some(b => b.t.length > 0)) this.time(blocks, elapsed, arrived)
    said.forEach(s => this.hear(s))
    this.announce(before)
  }

  /** A zero is taken in the first quiet second, or at the latest when the ladder leaves the first rung. */
  private proposeTare(before: RigState): void {
    const { driver } = this.o
    if (this.tare.taken || driver.isByHand) return
    const leaves = driver.state.rung > 0 || driver.state.phase === 'ramp'
    if (before.rung === 0 && !leaves && this.tare.isQuiet) this.tareNow('rig', 'the first quiet second')
    else if (leaves) this.tareNow('rig', this.tare.isQuiet ? '' : 'it did not stand still before the first load')
  }

  /** A watched channel that gives no number holds the ladder. */
  private guardSilence(): void {
    const { state, isThere } = this.o.driver
    if (!this.guard || !isThere || state.phase === 'ended') return
    const since = (performance.now() - this.begun) / 1000
    const source = this.o.view.rungs[state.rung]?.source ?? 0
    const off = new Set(
      this.o.plan.channels.filter(c => c.offAfter !== undefined && source >= c.offAfter - 1).map(c => c.role),
    )
    const { lost, back } = this.guard.look(
      role => this.readout.ageOf(role) ?? since,
      role => off.has(role),
    )
    for (const { role, age } of lost) {
      const label = this.o.view.channels.find(c => c.role === role)?.label ?? role
      this.note('guard lost', 'watch rule', `${label} has given no number for ${age.toFixed(1)} s: ladder held`, role)
      this.command('hold', 'watch rule')
    }
    for (const role of back) this.note('guard back', 'rig', '', role)
  }

  private look(raw: RigBlock, before: RigState, arrived: number | null): void {
    const { driver, plan, view } = this.o
    const { state } = driver
    const isMain = (raw.group ?? 0) === 0
    const block = isMain ? withSetPoint(withGaps(raw), plan, before, state) : withGaps(raw)
    this.tare.feed(block)
    const isHold = state.phase !== 'ramp' && state.phase !== 'unloading' && before.rung === state.rung
    const crossed = this.watcher.feed(raw, {
      rung: Math.min(before.rung, state.rung),
      isHold,
      isUnloading: state.phase === 'unloading' || state.phase === 'ended' || isLower(this.o.plan, state),
      next: nextLoading(this.o.plan.rungs, state.rung)?.target ?? null,
    })
    for (const c of crossed) {
      if (c.action !== 'warn') this.command(c.action, 'watch rule')
      this.note('watch', 'watch rule', `${c.note} (${this.since(c.t, arrived).toFixed(1)} ms after its sample)`, c.role)
    }
    for (const flag of this.readout.feed(block, before, state)) this.say(flag)
    this.readOwn(block, before)
    this.strips.feed(block)
    // A long block may end as its rung is left: what was read belongs to where it began.
    const { rung, phase } = before
    this.kind.take(block, raw, { ...state, rung, phase, elapsed: before.elapsed + state.t - before.t })
    const { commanded, read } = view
    if (!block.channels[commanded.role]) return
    const stride = Math.max(1, Math.ceil(block.t.length / POINTS_A_FRAME))
    for (
      let k = block.t.length - 1 - Math.floor((block.t.length - 1) / stride) * stride;
      k < block.t.length;
      k += stride
    ) {
      this.fresh.t.push(block.t[k]!)
      this.fresh.commanded.push(block.channels[commanded.role]![k]!)
      this.fresh.read.push(block.channels[read.role]?.[k] ?? this.readout.lastOf(read.role) ?? 0)
    }
  }

  /** What the article has of its own: told aloud when it passes its limit. */
  private readOwn(block: RigBlock, { rung, phase }: RigState): void {
    if (!this.own || block.t.length === 0) return
    // Nothing counts before it has a zero to count from; what came last before it is where the way up begins.
    if (!this.tare.taken && !this.o.driver.isByHand) return void this.beforeZero.set(block.group ?? 0, block)
    const blocks = [...this.beforeZero.values(), block]
    this.beforeZero.clear()
    for (const { note, t } of blocks.flatMap(b => this.own!.feed(b, { rung, phase })))
      this.addEvent({ kind: 'limit passed', note, by: 'watch rule', t })
  }

  private say({ note, role }: LiveFlag): void {
    this.note('health', 'rig', note, role)
  }

  /** How long it took from the newest sample to here, and whether its clock is this one. */
  private time(blocks: readonly RigBlock[], elapsed: number, arrived: number | null): void {
    const newest = Math.max(...blocks.map(b => b.t.at(-1) ?? -Infinity))
    const oldest = Math.min(...blocks.map(b => b.t[0] ?? Infinity))
    this.latency.last = this.since(oldest, arrived)
    this.latency.worst = Math.max(this.latency.worst, this.latency.last)
    if (this.clockSaid || newest + (this.o.driver.lag ?? 0) - elapsed < AHEAD) return
    this.clockSaid = true
    this.note('clock', 'rig', `the logger’s stamps run ${(newest - elapsed).toFixed(1)} s ahead of this clock`)
  }

  /** ms from a sample, or from when it came in, to now. */
  private since(t: number, arrived: number | null): number {
    const now = performance.now()
    return Math.max(
      0,
      arrived === null
        ? now - this.begun - ((t + (this.o.driver.lag ?? 0) - this.o.begin) / this.o.pace) * 1000
        : now - arrived,
    )
  }

  private hear(s: Said): void {
    this.addEvent({
      kind: s.kind,
      note: s.note,
      by: 'stream',
      role: s.role ?? null,
      ...(s.t === undefined ? {} : { t: s.t }),
      ...(s.value === undefined ? {} : { value: s.value, reading: null }),
    })
    if (s.hold) this.command('hold', 'stream')
  }

  /** Rungs reached and ends, as the state passes them. */
  private announce(before: RigState): void {
    const { state } = this.o.driver
    if (state.phase === 'hold' && (before.phase !== 'hold' || before.rung !== state.rung) && before.phase !== 'paused')
      this.note('rung reached', 'rig')
    if (state.phase === 'waiting' && before.phase !== 'waiting') this.note('waits for a go', 'rig')
    if (before.countdown !== null && state.countdown === null && state.phase === 'ramp')
      this.note('load', 'rig', 'after the baseline')
    if (state.end && state.end !== before.end && state.end !== 'aborted' && state.end !== 'stopped')
      this.note(state.end, 'rig')
  }

  private addEvent(e: Partial<LiveEvent> & Pick<LiveEvent, 'kind' | 'by'>): void {
    const { commanded, read } = this.o.view
    const { state } = this.o.driver
    const said: LiveEvent = {
      t: state.t,
      rung: state.rung,
      value: this.readout.lastOf(commanded.role),
      reading: this.readout.lastOf(read.role),
      note: '',
      target: this.target(),
      role: null,
      ...e,
    }
    const event: LiveEvent = {
      ...said,
      t: finite(said.t) ?? 0,
      value: finite(said.value),
      reading: finite(said.reading),
      target: finite(said.target),
    }
    this.store.keepEvent(event)
    this.events.push(event)
    this.broadcast({ ...this.frame(), events: [event] })
  }

  private now(): LiveNow {
    const { driver } = this.o
    return {
      ...this.readout.now(driver.state, this.watcher),
      kind: this.kind.now(driver.state),
      own: this.own?.now() ?? [],
      tared: this.tare.taken?.t ?? null,
      controller: this.controller,
      watching: [...new Set([...this.consoles].map(c => c.who))],
      recorder: this.store.said,
      latency: this.latency,
      source: driver.isThere ? 'there' : 'lost',
    }
  }

  private send(): void {
    const piece = this.strips.take()
    const isFull = this.frames++ % NOW_EVERY === 0
    if (!piece && !isFull) return
    const frame: LiveFrame = { ...this.frame(), ...this.fresh, ...(isFull ? { now: this.now() } : {}) }
    this.fresh = { t: [], commanded: [], read: [] }
    for (const c of this.consoles)
      c.send(piece && c.roles.length > 0 ? { ...frame, strip: this.strips.of(piece, c.roles) } : frame)
  }

  private broadcast(frame: LiveFrame): void {
    for (const c of this.consoles) c.send(frame)
  }

  /** A recording that cannot be closed now stays open, interrupted: it is closed by hand later. */
  private async end(what: Parameters<LiveOptions['ended']>[0]): Promise<void> {
    for (let wait = FIRST_WAIT; ; wait = Math.min(2 * wait, LONGEST_WAIT)) {
      const problem = await this.o.ended(what).then(
        () => null,
        (e: unknown) => e,
      )
      if (problem === null) return
      console.error(`Run ${this.o.runId} could not be closed, trying again. ${causesOf(problem)}`)
      this.store.fail('The store does not answer')
      if (this.isLetGo) return
      await new Promise(resolve => setTimeout(resolve, wait))
      this.broadcast({ ...this.frame(), now: this.now() })
    }
  }

  private finish(): Promise<void> {
    return (this.closing ??= (async () => {
      await this.stop()
      // A store that does not answer keeps the run open: what it holds is in memory only.
      while (!this.isLetGo && !this.store.isEmpty) {
        await new Promise(resolve => setTimeout(resolve, FLUSH_MS))
        await this.store.flush()
        this.broadcast({ ...this.frame(), now: this.now() })
      }
      const { state } = this.o.driver
      await this.end({ t: state.t, end: state.end ?? 'closed early', events: this.events })
      this.broadcast({ ...this.frame(), closed: true })
      this.onClosed?.()
    })())
  }
}

const finite = (v: number | null | undefined): number | null => (typeof v === 'number' && Number.isFinite(v) ? v : null)

/** What is no number is a gap: it is drawn, averaged and stored as one. */
function withGaps(block: RigBlock): RigBlock {
  const isWhole = (values: number[]) => values.every(v => v !== Infinity && v !== -Infinity)
  if (Object.values(block.channels).every(isWhole)) return block
  const channels = Object.entries(block.channels).map(([role, values]): [string, number[]] => [
    role,
    isWhole(values) ? values : values.map(v => (Math.abs(v) === Infinity ? NaN : v)),
  ])
  return { ...block, channels: Object.fromEntries(channels) }
}

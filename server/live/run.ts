import {
  formatQuantity,
  HypometError,
  Tare,
  Watcher,
  type LiveFlag,
  type Plan,
  type PlanView,
  type RigBlock,
  type RigCommand,
  type RigState,
  type UnitPreference,
} from '@hypomet/core'
import type { LiveEvent } from '../db/schema'
import { causesOf } from './causes'
import type { CrewDriver } from './drivers/crew'
import type { Driver, Said } from './drivers/driver'
import type { LiveFrame, LiveNow, RecorderState } from './frame'
import { Readout } from './readout'
import type { RunGroup } from '../db/tests/runs'
import type { RecordedBlock, Recorder } from '../db/records/recorder'
import { Strips } from './strips'

const TICK_MS = 33
const FLUSH_MS = 250
/** Frames between two that say everything. */
const NOW_EVERY = 6
const POINTS_A_FRAME = 3
/** A logger whose stamps run ahead of this server's clock by more than this, s, has a clock of its own. */
const AHEAD = 0.5
/** Samples that may wait for a store that does not take them, before the eldest are thinned. */
const MOST_WAITING = 60_000_000
const THINNED_BY = 10
/** A store that does not answer is asked again after so many ms, then twice as many, and so on. */
const [FIRST_WAIT, LONGEST_WAIT] = [FLUSH_MS, 30_000]
/** An accepted abort waits so long for the disk before it is answered, ms. */
const ABORT_WAITS = 1000
/** A guarded channel of n Hz may be silent for so many of its samples, where that is longer than the plan's time. */
const SILENT_SAMPLES = 3

export interface LiveOptions {
  runId: number
  testId: number
  /** Of the test, as people call it. */
  title: string
  plan: Plan
  view: PlanView
  pace: number
  /** s on the run's clock when this process takes it up. */
  begin: number
  controls: string
  groups: RunGroup[]
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
  /** Channels that a rule or a range watches, and after how many s of silence that is an event of the first rank. */
  private readonly guarded: Map<string, number>
  private readonly silent = new Set<string>()
  private nextTry = 0
  private wait = FIRST_WAIT
  private thinned = 0
  private isLetGo = false
  private readonly strips: Strips
  private readonly consoles = new Set<Console>()
  private readonly events: LiveEvent[] = []
  private timers: NodeJS.Timeout[] = []
  private pending: { blocks: RigBlock[]; events: LiveEvent[]; samples: number; since: number } = emptyPending()
  private flushing: Promise<void> | null = null
  private problem = ''
  private stored = 0
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
    this.readout = new Readout(plan, view, o.driver.isByHand ?? false, this.tare)
    if (o.driver.follower) o.driver.follower.zeroOf = () => this.readout.zeroOf(view.commanded.role)
    this.guarded = guardedOf(o)
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
    })
    this.strips = new Strips(o.groups.flatMap(g => g.roles))
    this.controller = o.controls
    this.stored = o.groups.reduce((n, g) => n + g.stored * g.roles.length, 0)
  }

  start(): void {
    this.begun = performance.now()
    this.o.driver.onArrival = () => this.take()
    this.o.driver.start()
    this.timers = [setInterval(() => this.tick(), TICK_MS), setInterval(() => void this.flush(), FLUSH_MS)]
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
    if (!this.o.recorder) return { isStored: true }
    this.nextTry = 0
    const stored = (async () => {
      await this.flush()
      if (this.pending.events.length > 0) await this.flush()
      return this.pending.events.length === 0
    })()
    const waited = new Promise<boolean>(resolve => setTimeout(() => resolve(false), ABORT_WAITS))
    return { isStored: await Promise.race([stored, waited]) }
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
    const { commanded } = this.o.view
    const { mean = 0, sd = 0 } = zeros[commanded.role] ?? {}
    const show = (si: number) => formatQuantity(si, commanded.kind, { prefer: this.o.prefer, digits: 2 })
    this.note(
      'tare',
      by,
      `zero of ${Object.keys(zeros).length} channels; ${commanded.label.toLowerCase()} ${show(mean)}, scatter ` +
        `${show(sd)}${how ? `; ${how}` : ''}`,
    )
  }

  /** Gives up what a store does not take, so that the run can be left; what was stored stays. */
  letGo(by: string): void {
    if (this.problem === '') return
    this.note('let go', by, `${this.pending.samples} samples that could not be stored are given up`)
    this.isLetGo = true
  }

  going(): Omit<Going, 'runId'> {
    const { rung, phase } = this.o.driver.state
    const { view, testId, title, recorder } = this.o
    return { testId, title, isRehearsal: recorder === null, rung: rung + 1, rungs: view.rungs.length, phase }
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
      note: stands === null || stands === 'reached' ? 'read by hand' : this.againstRung(stands, load!, target),
      by,
      role: Object.keys(readings).join(' '),
    })
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
    await this.flush()
    await this.flush()
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
    this.guard()
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

  /** No good sample of a guarded channel for too long: nobody knows what is on. */
  private guard(): void {
    const { state, isByHand, isThere } = this.o.driver
    if (isByHand || !isThere || state.phase === 'ended') return
    for (const [role, most] of this.guarded) {
      const age = this.readout.ageOf(role) ?? (performance.now() - this.begun) / 1000
      if (age > most && !this.silent.has(role)) {
        this.silent.add(role)
        const label = this.o.view.channels.find(c => c.role === role)?.label ?? role
        this.note('guard lost', 'watch rule', `${label} has given no number for ${age.toFixed(1)} s: ladder held`, role)
        this.command('hold', 'watch rule')
      } else if (age <= most && this.silent.delete(role)) this.note('guard back', 'rig', '', role)
    }
  }

  private look(raw: RigBlock, before: RigState, arrived: number | null): void {
    const { state } = this.o.driver
    const block = withGaps(raw)
    this.tare.feed(block)
    const isHold = state.phase !== 'ramp' && state.phase !== 'unloading' && before.rung === state.rung
    const crossed = this.watcher.feed(raw, {
      rung: Math.min(before.rung, state.rung),
      isHold,
      isUnloading: state.phase === 'unloading' || state.phase === 'ended' || isLower(this.o.plan, state),
      next: this.o.plan.rungs[state.rung + 1]?.target ?? null,
    })
    for (const c of crossed) {
      if (c.action !== 'warn') this.command(c.action, 'watch rule')
      this.note('watch', 'watch rule', `${c.note} (${this.since(c.t, arrived).toFixed(1)} ms after its sample)`, c.role)
    }
    for (const flag of this.readout.feed(block, before, state)) this.say(flag)
    this.strips.feed(block)
    this.keep(block)
    const { commanded, read } = this.o.view
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

  private keep(block: RigBlock): void {
    if (!this.o.recorder || block.t.length === 0) return
    if (this.pending.samples === 0) this.pending.since = performance.now()
    this.pending.blocks.push(block)
    this.pending.samples += block.t.length * Object.keys(block.channels).length
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
    this.pending.events.push(event)
    this.events.push(event)
    this.broadcast({ ...this.frame(), events: [event] })
  }

  private now(): LiveNow {
    const { driver } = this.o
    return {
      ...this.readout.now(driver.state, this.watcher),
      tared: this.tare.taken?.t ?? null,
      controller: this.controller,
      watching: [...new Set([...this.consoles].map(c => c.who))],
      recorder: this.recorderState(),
      latency: this.latency,
      source: driver.isThere ? 'there' : 'lost',
    }
  }

  private recorderState(): RecorderState {
    const waiting = this.pending.samples
    return {
      behind: waiting > 0 ? (performance.now() - this.pending.since) / 1000 : 0,
      stored: this.stored,
      waiting,
      problem: this.problem,
      thinned: this.thinned,
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

  /** Stores what has come since the last time, with the run's memory; one at a time, and later where it just failed. */
  private flush(): Promise<void> {
    if (performance.now() < this.nextTry) return Promise.resolve()
    return (this.flushing ??= this.storePending().finally(() => {
      this.flushing = null
    }))
  }

  private async storePending(): Promise<void> {
    const { recorder } = this.o
    const sent = this.pending
    if (!recorder || (sent.blocks.length === 0 && sent.events.length === 0)) return
    this.pending = emptyPending()
    // Apart from each other: an event that cannot be written keeps no sample waiting, nor the other way round.
    const samples = await this.attempt(() => this.storeBlocks(recorder, sent.blocks, sent.samples))
    const events = await this.attempt(() => this.storeEvents(recorder, sent.events))
    if (samples === null && events === null) return this.mend()
    // Nothing is lost while this process lives: it goes out later.
    const later = this.pending
    this.pending = {
      blocks: samples === null ? later.blocks : [...sent.blocks, ...later.blocks],
      events: events === null ? later.events : [...sent.events, ...later.events],
      samples: later.samples + (samples === null ? 0 : sent.samples),
      since: samples === null ? later.since : sent.since,
    }
    this.complain((samples ?? events)!)
  }

  /** Null where it went well. */
  private async attempt(store: () => Promise<void>): Promise<Error | null> {
    try {
      await store()
      return null
    } catch (e) {
      return e as Error
    }
  }

  private batch(blocks: RecordedBlock[], events: LiveEvent[]) {
    const { runId, testId, driver } = this.o
    return { runId, testId, blocks, events, state: driver.state, controls: this.controller }
  }

  private async storeBlocks(recorder: Recorder, all: RigBlock[], samples: number): Promise<void> {
    const blocks = this.o.groups.flatMap((g, i) =>
      recorded(
        g,
        all.filter(b => (b.group ?? 0) === i),
      ),
    )
    if (blocks.length === 0) return
    await recorder.store(this.batch(blocks, []))
    for (const b of blocks) this.o.groups.find(g => g.datasetId === b.datasetId)!.stored += b.count
    this.stored += samples
  }

  /** All together; else one by one, each without what cannot be written. @throws where not even that can be */
  private async storeEvents(recorder: Recorder, events: LiveEvent[]): Promise<void> {
    if (events.length === 0) return
    const together = await this.attempt(() => recorder.store(this.batch([], events)))
    if (together === null) return
    for (const [i, e] of events.entries()) {
      const alone = await this.attempt(() => recorder.store(this.batch([], [e])))
      if (alone === null) continue
      const bare = {
        ...e,
        value: null,
        reading: null,
        target: null,
        note: `${e.note} (without what could not be written)`,
      }
      const stripped = await this.attempt(() => recorder.store(this.batch([], [bare])))
      if (stripped === null) continue
      // It is the store: those that went out are not sent again.
      events.splice(0, i)
      throw together
    }
  }

  /** The store does not take it: the ladder is held, everybody is told, and it is tried again with growing waits. */
  private complain(e: Error): void {
    this.nextTry = performance.now() + this.wait
    this.wait = Math.min(2 * this.wait, LONGEST_WAIT)
    const isFull = /\bfull\b|SQLITE_FULL|ENOSPC/i.test(causesOf(e))
    if (this.problem === '') {
      this.problem = isFull ? 'The disk is full' : 'The store does not answer'
      console.error(`Run ${this.o.runId}: a block could not be stored, trying again. ${causesOf(e)}`)
      this.note(
        'recorder',
        'recorder',
        `${this.problem}: ladder held, what is read is kept in memory until there is room`,
      )
      this.command('hold', 'recorder')
    }
    if (this.pending.samples > MOST_WAITING) this.thin()
  }

  /** Memory is not endless: of the elder half every so many samples stay, and that is said. */
  private thin(): void {
    const { blocks } = this.pending
    const half = Math.ceil(blocks.length / 2)
    const thin = (values: number[]) => values.filter((_, k) => k % THINNED_BY === 0)
    const kept = blocks.slice(0, half).map(b => ({
      ...b,
      t: thin(b.t),
      channels: Object.fromEntries(Object.entries(b.channels).map(([role, v]) => [role, thin(v)])),
    }))
    const all = [...kept, ...blocks.slice(half)]
    const samples = all.reduce((n, b) => n + b.t.length * Object.keys(b.channels).length, 0)
    this.thinned += this.pending.samples - samples
    this.pending = { ...this.pending, blocks: all, samples }
    this.note('recorder', 'recorder', `the memory is nearly full as well: the eldest samples are thinned to a tenth`)
  }

  private mend(): void {
    this.nextTry = 0
    this.wait = FIRST_WAIT
    if (this.problem === '') return
    this.problem = ''
    const lost = this.thinned === 0 ? 'nothing was lost' : `${this.thinned} samples were thinned away`
    this.note('recorder', 'recorder', `storing again; ${lost}`)
  }

  /** A recording that cannot be closed now stays open, interrupted: it is closed by hand later. */
  private async end(what: Parameters<LiveOptions['ended']>[0]): Promise<void> {
    for (let wait = FIRST_WAIT; ; wait = Math.min(2 * wait, LONGEST_WAIT)) {
      const problem = await this.attempt(() => this.o.ended(what))
      if (problem === null) return
      console.error(`Run ${this.o.runId} could not be closed, trying again. ${causesOf(problem)}`)
      this.problem ||= 'The store does not answer'
      if (this.isLetGo) return
      await new Promise(resolve => setTimeout(resolve, wait))
      this.broadcast({ ...this.frame(), now: this.now() })
    }
  }

  private finish(): Promise<void> {
    return (this.closing ??= (async () => {
      await this.stop()
      // A store that does not answer keeps the run open: what it holds is in memory only.
      while (!this.isLetGo && this.o.recorder && this.pending.samples + this.pending.events.length > 0) {
        await new Promise(resolve => setTimeout(resolve, FLUSH_MS))
        await this.flush()
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

/** The rung that is gone to lies below the one before it. */
const isLower = ({ rungs }: Plan, { rung }: RigState): boolean =>
  rung > 0 && rungs[rung]!.target < rungs[rung - 1]!.target

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

/** Channels that rules watch, with what is commanded: none may fall silent. */
function guardedOf({ plan, view, groups, pace, driver }: LiveOptions): Map<string, number> {
  if (driver.isByHand) return new Map()
  const read = new Set(groups.flatMap(g => g.roles))
  const twins = plan.watch.flatMap(r => (r.kind === 'twin' ? [view.channels.find(c => c.role === r.role)?.twin] : []))
  const roles = [view.commanded.role, ...plan.watch.map(r => r.role), ...twins].filter(
    (role): role is string => typeof role === 'string' && read.has(role),
  )
  return new Map(
    roles.map(role => {
      const rate = view.channels.find(c => c.role === role)?.rate ?? plan.rate
      return [role, Math.max(plan.silence, SILENT_SAMPLES / (rate * pace))]
    }),
  )
}

const emptyPending = () => ({ blocks: [] as RigBlock[], events: [] as LiveEvent[], samples: 0, since: 0 })

/** Blocks of one rate as they are stored: one after the other, by column. */
function recorded(g: RunGroup, blocks: readonly RigBlock[]): RecordedBlock[] {
  const count = blocks.reduce((n, b) => n + b.t.length, 0)
  if (count === 0) return []
  const columns = ['t', ...g.roles].map(role => {
    const column = new Float64Array(count).fill(NaN)
    let at = 0
    for (const b of blocks) {
      const values = role === 't' ? b.t : b.channels[role]
      if (values) column.set(values, at)
      at += b.t.length
    }
    return column
  })
  return [{ datasetId: g.datasetId, channelIds: g.channelIds, start: g.stored, count, columns }]
}

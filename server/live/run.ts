import { applyFaults, families, HypometError, parseSettings, Watcher, type Fault, type FaultMemory, type Plan, type PlanView, type RigBlock, type RigCommand, type RigState, type UnitPreference } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import type { Database, Db } from '../db/client'
import { appendChunk, consolidate } from '../db/samples'
import { dataset, run, runEvent, type LiveEvent } from '../db/schema'
import { lockPredictions } from '../db/tests'
import { crossedWatches, type Watch } from './watch'

const TICK_MS = 100
const FLUSH_MS = 300
const POINTS_A_FRAME = 10

/** What the console receives, ten times a second: thinned samples and where the ladder stands. */
export interface LiveFrame {
  t: number[]
  commanded: number[]
  read: number[]
  state: { t: number; rung: number; phase: RigState['phase']; elapsed: number; end: string | null }
  /** Newest reading of every channel, its zero taken off; null before there is one. */
  latest: Record<string, number | null>
  /** Who has the controls. */
  controller: string
  events: LiveEvent[]
  closed: boolean
}

export interface LiveOptions {
  database: Database
  runId: number
  testId: number
  datasetId: number
  family: string
  plan: unknown
  article: unknown
  view: PlanView
  seed: number
  pace: number
  by: string
  /** Channel ids by role; `t` among them. */
  channels: Record<string, number>
  state: RigState
  /** Chunks and samples that are already stored. */
  seq: number
  stored: number
  watches: Watch[]
  prefer: UnitPreference
  /** Surprises of a rehearsal, of which nothing is stored; null for a run. */
  rehearsal: { faults: Fault[]; ended(what: { t: number; end: string; events: LiveEvent[] }): Promise<void> } | null
}

/**
 * A run on the simulated rig: advances it with the clock, records every sample, watches full-rate data and sends the
 * console a thinned stream. What is recorded is never older than `FLUSH_MS`, and the rig's memory is stored with it.
 */
export class LiveRun {
  private state: RigState
  private seq: number
  private stored: number
  private timers: NodeJS.Timeout[] = []
  private pending: RigBlock = { t: [], channels: {} }
  private pendingEvents: LiveEvent[] = []
  private readonly listeners = new Set<(frame: LiveFrame) => void>()
  private lastTick = performance.now()
  private owed = 0
  private flushing: Promise<void> = Promise.resolve()
  private readonly rig
  private readonly truth: unknown
  private readonly plan: { rate: number }
  private readonly article: unknown
  private readonly fired = new Set<string>()
  /** Last sample of each channel. */
  private readonly latest: Record<string, number> = {}
  private closing: Promise<void> | null = null
  private readonly watcher: Watcher
  /** Sums over the first rung, of which the zeros are the means. */
  private readonly zeros: Record<string, { sum: number; n: number }> = {}
  private controller: string
  private readonly faultMemory: FaultMemory = {}
  /** What a rehearsal remembers for a console that comes late, and for its debrief. */
  private readonly heard = { t: [] as number[], commanded: [] as number[], read: [] as number[], events: [] as LiveEvent[] }

  constructor(private readonly o: LiveOptions) {
    const { stages } = families[o.family]!
    this.rig = stages.rig
    const plan = parseSettings(stages.plan, o.plan, 'plan') as Plan
    this.plan = plan
    this.watcher = new Watcher(plan.watch, plan.channels, o.view.commanded.role, o.prefer)
    this.controller = o.by
    this.article = parseSettings(stages.article, o.article, 'properties')
    this.truth = this.rig.drawTruth(this.plan, this.article, o.seed)
    this.state = o.state
    this.seq = o.seq
    this.stored = o.stored
  }

  start(): void {
    this.lastTick = performance.now()
    this.timers = [setInterval(() => this.tick(), TICK_MS), setInterval(() => void this.flush(), FLUSH_MS)]
  }

  listen(listener: (frame: LiveFrame) => void): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** Anybody may hold or abort; going on is for who has the controls. @throws HypometError `no-controls` */
  command(command: RigCommand, by: string, note = ''): void {
    if (command === 'resume' || command === 'go') this.assertControls(by)
    const before = this.state
    this.state = this.rig.command(this.state, command)
    if (this.state.phase !== before.phase || (command === 'go' && before.phase === 'waiting')) this.note(command, by, note)
  }

  private assertControls(by: string): void {
    if (by !== this.controller) throw new HypometError('no-controls', `${this.controller} has the controls; take them first, or ask. Anybody may hold or abort.`)
  }

  /** Hands the controls on, or takes them: both are written down. */
  passControls(by: string, to: string): void {
    if (to === this.controller) return
    if (to !== by) this.assertControls(by)
    this.note(to === by ? 'controls taken' : 'controls passed', by, to === by ? `from ${this.controller}` : `to ${to}`)
    this.controller = to
    this.broadcast(this.frame())
  }

  /** A reading as it was shouted, SI, beside what the gauge says at this moment. */
  shout(by: string, reading: number, note: string): void {
    this.addEvent({ t: this.state.t, kind: 'call-out', rung: this.state.rung, value: this.lastOf(this.o.view.commanded.role), reading, note: note || 'as shouted', by })
  }

  /** A load that no rung plans, written down with its size before it goes on. SI. */
  deviate(by: string, size: number, note: string): void {
    this.addEvent({ t: this.state.t, kind: 'deviation', rung: this.state.rung, value: size, reading: null, note, by })
  }

  /** Samples of before this process, so that zeros and watch rules know them. */
  prime(block: RigBlock): void {
    this.learnZeros(block)
    this.watcher.feed(block, { rung: 0, isHold: true, maxTarget: this.o.view.maxTarget })
  }

  private learnZeros(block: RigBlock): void {
    for (const [role, values] of Object.entries(block.channels)) {
      const z = (this.zeros[role] ??= { sum: 0, n: 0 })
      for (const v of values) if (Number.isFinite(v)) { z.sum += v; z.n++ }
    }
  }

  private zeroOf(role: string): number {
    const z = this.zeros[role]
    return z && z.n > 0 ? z.sum / z.n : 0
  }

  /** A reading called out, or a mark, at this moment. */
  note(kind: string, by: string, note = ''): void {
    const reading = this.lastOf(this.o.view.read.role)
    this.addEvent({ t: this.state.t, kind, rung: this.state.rung, value: this.lastOf(this.o.view.commanded.role), reading, note, by })
  }

  async stop(): Promise<void> {
    this.timers.forEach(clearInterval)
    this.timers = []
    await this.flush()
  }

  private lastOf(role: string): number | null {
    return this.latest[role] ?? null
  }

  private tick(): void {
    const now = performance.now()
    this.owed += ((now - this.lastTick) / 1000) * this.o.pace * this.plan.rate
    this.lastTick = now
    const due = Math.floor(this.owed)
    if (due === 0 || this.state.phase === 'ended') return void (this.state.phase === 'ended' && this.finish())
    this.owed -= due
    const before = this.state
    const { state, block: sound } = this.rig.advance(this.plan, this.article, this.truth, this.state, due)
    const block = applyFaults(this.o.rehearsal?.faults ?? [], sound, this.faultMemory)
    this.state = state
    this.take(block, now, before.rung)
    this.announce(before)
    this.send(block)
  }

  private take(block: RigBlock, arrived: number, rung: number): void {
    if (rung === 0) this.learnZeros(block)
    this.pending.t.push(...block.t)
    for (const [role, values] of Object.entries(block.channels)) {
      ;(this.pending.channels[role] ??= []).push(...values)
      if (values.length > 0) this.latest[role] = values.at(-1)!
    }
    for (const { key, note, hold } of crossedWatches(this.o.watches, block)) {
      if (this.fired.has(key)) continue
      this.fired.add(key)
      this.note('watch', 'watch rule', note)
      if (hold) this.command('hold', 'watch rule')
    }
    const { phase } = this.state
    for (const c of this.watcher.feed(block, { rung, isHold: phase !== 'ramp' && phase !== 'unloading', maxTarget: this.o.view.maxTarget })) {
      if (c.action !== 'warn') this.command(c.action, 'watch rule')
      this.note('watch', 'watch rule', `${c.note} (${(performance.now() - arrived).toFixed(1)} ms after the sample came)`)
    }
  }

  /** Rungs reached and ends, as the state passes them. */
  private announce(before: RigState): void {
    const { state } = this
    if (state.phase === 'hold' && (before.phase !== 'hold' || before.rung !== state.rung) && before.phase !== 'paused') this.note('rung reached', 'rig')
    if (state.phase === 'waiting' && before.phase !== 'waiting') this.note('waits for a go', 'rig')
    if (state.end && state.end !== before.end && state.end !== 'aborted') this.note(state.end, 'rig')
  }

  private addEvent(event: LiveEvent): void {
    this.pendingEvents.push(event)
    this.broadcast({ ...this.frame(), events: [event] })
  }

  private snapshot(): LiveFrame['state'] {
    const { t, rung, phase, elapsed, end } = this.state
    return { t, rung, phase, elapsed, end }
  }

  /** Everything so far, of a rehearsal. */
  rehearsed(): LiveFrame | null {
    return this.o.rehearsal ? { ...this.frame(), ...this.heard, events: [...this.heard.events, ...this.pendingEvents] } : null
  }

  /** A frame without samples: where it stands now. */
  frame(): LiveFrame {
    const latest = Object.fromEntries(this.o.view.channels.map(c => [c.role, this.latest[c.role] === undefined ? null : this.latest[c.role]! - this.zeroOf(c.role)]))
    return { t: [], commanded: [], read: [], state: this.snapshot(), latest, controller: this.controller, events: [], closed: false }
  }

  private send(block: RigBlock): void {
    const stride = Math.max(1, Math.ceil(block.t.length / POINTS_A_FRAME))
    const thin = (values: number[] = []) => values.filter((_, i) => (values.length - 1 - i) % stride === 0)
    const { commanded, read } = this.o.view
    const thinned = { t: thin(block.t), commanded: thin(block.channels[commanded.role]), read: thin(block.channels[read.role]) }
    if (this.o.rehearsal) for (const key of ['t', 'commanded', 'read'] as const) this.heard[key].push(...thinned[key])
    this.broadcast({ ...this.frame(), ...thinned })
  }

  private broadcast(frame: LiveFrame): void {
    for (const listener of this.listeners) listener(frame)
  }

  /** Stores what has come since the last flush, with the rig's memory, in one transaction. */
  private flush(): Promise<void> {
    this.flushing = this.flushing.then(async () => {
      const [block, events] = [this.pending, this.pendingEvents]
      if (block.t.length === 0 && events.length === 0) return
      this.pending = { t: [], channels: {} }
      this.pendingEvents = []
      try {
        await this.store(block, events, this.state)
        this.seq++
        this.stored += block.t.length
      } catch (e) {
        // Nothing is lost while this process lives: it goes out with the next flush.
        console.error(`Run ${this.o.runId}: a block could not be stored, trying again.`, e)
        this.pending = joined(block, this.pending)
        this.pendingEvents = [...events, ...this.pendingEvents]
      }
    })
    return this.flushing
  }

  private store(block: RigBlock, events: LiveEvent[], state: RigState): Promise<void> {
    if (this.o.rehearsal) {
      this.heard.events.push(...events)
      return Promise.resolve()
    }
    return this.o.database.write(async db => {
      if (this.seq === 0) await lockPredictions(db, this.o.testId)
      await storeBlock(db, this.o.channels, this.seq, this.stored, block)
      if (events.length > 0) await db.insert(runEvent).values(events.map(e => ({ ...e, runId: this.o.runId, at: new Date().toISOString() })))
      await db.update(run).set({ rigState: state }).where(eq(run.id, this.o.runId))
    })
  }

  private finish(): Promise<void> {
    return (this.closing ??= (async () => {
      await this.stop()
      if (this.o.rehearsal) await this.o.rehearsal.ended({ t: this.state.t, end: this.state.end ?? 'closed early', events: this.heard.events })
      else await this.o.database.write(db => closeRun(db, this.o.runId, this.o.datasetId, this.state.end))
      this.broadcast({ ...this.frame(), closed: true })
      this.onClosed?.()
    })())
  }

  onClosed: (() => void) | undefined
}

const joined = (a: RigBlock, b: RigBlock): RigBlock => ({
  t: [...a.t, ...b.t],
  channels: Object.fromEntries(Object.entries(a.channels).map(([role, values]) => [role, [...values, ...(b.channels[role] ?? [])]])),
})

async function storeBlock(db: Db, channels: Record<string, number>, seq: number, start: number, block: RigBlock): Promise<void> {
  if (block.t.length === 0) return
  for (const [role, id] of Object.entries(channels)) {
    const values = role === 't' ? block.t : block.channels[role] ?? []
    await appendChunk(db, id, seq, start, Float64Array.from(values))
  }
}

/** Makes a recording a dataset like any other. */
export async function closeRun(db: Db, runId: number, datasetId: number, end: string | null): Promise<void> {
  const { sha256, rows } = await consolidate(db, datasetId)
  await db.update(dataset).set({ status: 'ready', sha256, rows }).where(eq(dataset.id, datasetId))
  await db.update(run).set({ status: 'closed', end: end ?? 'closed early', endedAt: new Date().toISOString() }).where(eq(run.id, runId))
}

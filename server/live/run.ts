import { families, parseSettings, type PlanView, type RigBlock, type RigCommand, type RigState } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import type { Database, Db } from '../db/client'
import { appendChunk, consolidate } from '../db/samples'
import { dataset, run, runEvent } from '../db/schema'
import { lockPredictions } from '../db/tests'
import { crossedWatches, type Watch } from './watch'

const TICK_MS = 100
const FLUSH_MS = 300
const POINTS_A_FRAME = 10

export interface LiveEvent {
  t: number
  kind: string
  rung: number | null
  value: number | null
  reading: number | null
  note: string
  by: string
}

/** What the console receives, ten times a second: thinned samples and where the ladder stands. */
export interface LiveFrame {
  t: number[]
  commanded: number[]
  read: number[]
  state: { t: number; rung: number; phase: RigState['phase']; elapsed: number; end: string | null }
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

  constructor(private readonly o: LiveOptions) {
    const { stages } = families[o.family]!
    this.rig = stages.rig
    this.plan = parseSettings(stages.plan, o.plan, 'plan') as { rate: number }
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

  command(command: RigCommand, by: string): void {
    const before = this.state.phase
    this.state = this.rig.command(this.state, command)
    if (this.state.phase !== before) this.note(command, by)
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
    const { state, block } = this.rig.advance(this.plan, this.article, this.truth, this.state, due)
    this.state = state
    this.take(block)
    this.announce(before)
    this.send(block)
  }

  private take(block: RigBlock): void {
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
  }

  /** Rungs reached and ends, as the state passes them. */
  private announce(before: RigState): void {
    const { state } = this
    if (state.phase === 'hold' && (before.phase !== 'hold' || before.rung !== state.rung) && before.phase !== 'paused') this.note('rung reached', 'rig')
    if (state.end && state.end !== before.end && state.end !== 'aborted') this.note(state.end, 'rig')
  }

  private addEvent(event: LiveEvent): void {
    this.pendingEvents.push(event)
    this.broadcast({ t: [], commanded: [], read: [], state: this.snapshot(), events: [event], closed: false })
  }

  private snapshot(): LiveFrame['state'] {
    const { t, rung, phase, elapsed, end } = this.state
    return { t, rung, phase, elapsed, end }
  }

  private send(block: RigBlock): void {
    const stride = Math.max(1, Math.ceil(block.t.length / POINTS_A_FRAME))
    const thin = (values: number[] = []) => values.filter((_, i) => (values.length - 1 - i) % stride === 0)
    const { commanded, read } = this.o.view
    this.broadcast({ t: thin(block.t), commanded: thin(block.channels[commanded.role]), read: thin(block.channels[read.role]), state: this.snapshot(), events: [], closed: false })
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
      await this.o.database.write(db => closeRun(db, this.o.runId, this.o.datasetId, this.state.end))
      this.broadcast({ t: [], commanded: [], read: [], state: this.snapshot(), events: [], closed: true })
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

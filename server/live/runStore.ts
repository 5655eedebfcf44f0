import type { RigBlock, RigState } from '@hypomet/core'
import type { RecordedBlock, Recorder } from '../db/records/recorder'
import type { LiveEvent } from '../db/schema'
import type { RunGroup } from '../db/tests/runs'
import { causesOf } from './causes'
import type { RecorderState } from './frame'

export const FLUSH_MS = 250
/** Samples that may wait for a store that does not take them, before the eldest are thinned. */
const MOST_WAITING = 60_000_000
const THINNED_BY = 10
/** A store that does not answer is asked again after so many ms, then twice as many, and so on. */
export const [FIRST_WAIT, LONGEST_WAIT] = [FLUSH_MS, 30_000]
/** An accepted abort waits so long for the disk before it is answered, ms. */
const ABORT_WAITS = 1000

export interface RunStoreOptions {
  runId: number
  testId: number
  groups: RunGroup[]
  /** Null for a rehearsal, of which nothing is stored. */
  recorder: Recorder | null
  /** What is stored of the run itself beside its samples. */
  memory(): { state: RigState; controls: string }
  /** A sentence for the record and every console. */
  note(words: string): void
  /** The store has just stopped taking what it is given. */
  failed(): void
}

/**
 * What of a run is not stored yet, and how it comes to be: samples and events apart from each other, again and again
 * with growing waits where the store does not take them, from a memory that is bounded.
 */
export class RunStore {
  private pending = emptyPending()
  private flushing: Promise<void> | null = null
  private nextTry = 0
  private wait = FIRST_WAIT
  private thinned = 0
  private stored: number
  private failing = ''

  constructor(private readonly o: RunStoreOptions) {
    this.stored = o.groups.reduce((n, g) => n + g.stored * g.roles.length, 0)
  }

  get problem(): string {
    return this.failing
  }

  get waiting(): number {
    return this.pending.samples
  }

  get isEmpty(): boolean {
    return !this.o.recorder || this.pending.samples + this.pending.events.length === 0
  }

  /** What consoles say of it. */
  get said(): RecorderState {
    const waiting = this.pending.samples
    return {
      behind: waiting > 0 ? (performance.now() - this.pending.since) / 1000 : 0,
      stored: this.stored,
      waiting,
      problem: this.failing,
      thinned: this.thinned,
    }
  }

  keep(block: RigBlock): void {
    if (!this.o.recorder || block.t.length === 0) return
    if (this.pending.samples === 0) this.pending.since = performance.now()
    this.pending.blocks.push(block)
    this.pending.samples += this.samplesOf(block)
  }

  /** Those that are stored: what the plan derives is worked out from them. */
  private samplesOf({ t, channels, group = 0 }: RigBlock): number {
    return t.length * Math.min(Object.keys(channels).length, this.o.groups[group]?.roles.length ?? 0)
  }

  keepEvent(event: LiveEvent): void {
    this.pending.events.push(event)
  }

  /** Says that the run itself cannot be closed in the store. */
  fail(words: string): void {
    this.failing ||= words
  }

  /** Whether all events are on the disk; false where it kept whoever asks waiting too long. */
  async settled(): Promise<boolean> {
    if (!this.o.recorder) return true
    this.nextTry = 0
    const stored = (async () => {
      await this.flush()
      if (this.pending.events.length > 0) await this.flush()
      return this.pending.events.length === 0
    })()
    const waited = new Promise<boolean>(resolve => setTimeout(() => resolve(false), ABORT_WAITS))
    return Promise.race([stored, waited])
  }

  /** Stores what has come since the last time, with the run's memory; one at a time, and later where it just failed. */
  flush(): Promise<void> {
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
    const { runId, testId, memory } = this.o
    return { runId, testId, blocks, events, ...memory() }
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
    if (this.failing === '') {
      this.failing = isFull ? 'The disk is full' : 'The store does not answer'
      console.error(`Run ${this.o.runId}: a block could not be stored, trying again. ${causesOf(e)}`)
      this.o.note(`${this.failing}: ladder held, what is read is kept in memory until there is room`)
      this.o.failed()
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
    const samples = all.reduce((n, b) => n + this.samplesOf(b), 0)
    this.thinned += this.pending.samples - samples
    this.pending = { ...this.pending, blocks: all, samples }
    this.o.note(`the memory is nearly full as well: the eldest samples are thinned to a tenth`)
  }

  private mend(): void {
    this.nextTry = 0
    this.wait = FIRST_WAIT
    if (this.failing === '') return
    this.failing = ''
    const lost = this.thinned === 0 ? 'nothing was lost' : `${this.thinned} samples were thinned away`
    this.o.note(`storing again; ${lost}`)
  }
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

import { HypometError, toRefusal, type Refusal } from '@hypomet/core'
import type { Database } from '../db/connection/client'
import { notFound } from '../db/connection/notFound'
import { createJob, endJobs, jobOf, unfinishedJobs, type JobEnd } from '../db/records/jobs'
import type { LaneWorker } from './childWorker'
import type { JobKind, PayloadOf, ResultOf } from './handlers'
import { Lane } from './lane'

type Progress = (share: number, doing: string) => void

/** Long work and looks at files have processes of their own, so that a reduction never waits for a stranger's file. */
export type LaneName = 'quick' | 'long' | 'look'
/** So long may a look at a file take, ms. */
const LOOK_MS = 5000
const LONG: readonly JobKind[] = ['import', 'health', 'steps', 'verify', 'copy']
const laneOf = (kind: JobKind): LaneName => (kind === 'preview' ? 'look' : LONG.includes(kind) ? 'long' : 'quick')

/** A job as it stands, for whoever follows it. */
export interface JobState {
  id: number
  kind: string
  status: string
  progress: number
  doing: string
  result: unknown
  error: unknown
}

interface Running {
  call: number
  lane: LaneName
  progress: number
  doing: string
  /** Told of every step, and last of the end. */
  followers: Set<() => void>
}

/**
 * Runs heavy work on worker threads that live as long as the server. `call` waits for the result; `start` leaves a
 * row in the job table that a page can follow. Progress stays in memory: a crash needs none.
 */
export class JobRunner {
  private readonly lanes: Record<LaneName, Lane>
  private readonly running = new Map<number, Running>()
  private lastCall = 0

  constructor(
    private readonly database: Database,
    spawn: (lane: LaneName) => LaneWorker,
  ) {
    this.lanes = {
      quick: new Lane(() => spawn('quick')),
      long: new Lane(() => spawn('long')),
      look: new Lane(() => spawn('look'), LOOK_MS),
    }
  }

  call<K extends JobKind>(kind: K, payload: PayloadOf<K>, progress: Progress = () => {}): Promise<ResultOf<K>> {
    return this.ask(kind, payload, progress).result
  }

  /** Starts a job, or goes on with one that an earlier process left. */
  async start<K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    o: { then?: (result: ResultOf<K>) => Promise<unknown>; known?: number } = {},
  ): Promise<number> {
    const id = o.known ?? (await this.database.write(db => createJob(db, kind, payload)))
    const { call, result } = this.ask(kind, payload, (progress, doing) => {
      const running = this.running.get(id)
      if (!running) return
      Object.assign(running, { progress, doing })
      for (const tell of running.followers) tell()
    })
    this.keep(id, { call, lane: laneOf(kind), doing: 'waiting for its turn' }, async () => {
      const r = await result
      return (await o.then?.(r)) ?? r
    })
    return id
  }

  /** Does what follows of a job whose own work an earlier process left done. */
  settle(id: number, kind: JobKind, follows: () => Promise<unknown>): void {
    this.keep(id, { call: ++this.lastCall, lane: laneOf(kind), doing: 'doing what follows' }, follows)
  }

  /** Follows a job to its end, which it writes down. */
  private keep(id: number, of: Pick<Running, 'call' | 'lane' | 'doing'>, work: () => Promise<unknown>): void {
    const running: Running = { ...of, progress: 0, followers: new Set() }
    this.running.set(id, running)
    const end = (how: JobEnd) => this.database.write(db => endJobs(db, [id], how))
    void work()
      .then(result => end({ status: 'done', progress: 1, doing: '', result }))
      .catch((e: unknown) => end(endOf(e)))
      .finally(() => {
        this.running.delete(id)
        for (const tell of running.followers) tell()
      })
  }

  /** A job as it stands. @throws HypometError `not-found` */
  async state(id: number): Promise<JobState> {
    const row = await jobOf(this.database.read, id)
    const { progress, doing } = this.running.get(id) ?? row
    return { id, kind: row.kind, status: row.status, progress, doing, result: row.result, error: row.error }
  }

  /** Tells of every step of a job, and of its end; at once when it has ended. Gives what ends the telling. */
  follow(id: number, tell: () => void): () => void {
    const running = this.running.get(id)
    running?.followers.add(tell)
    return () => running?.followers.delete(tell)
  }

  /** Asks a job to stop; it ends at its next step, with nothing kept. */
  cancel(id: number): void {
    const running = this.running.get(id)
    if (!running) throw notFound('running job', id)
    this.lanes[running.lane].cancel(running.call)
  }

  /** Jobs that an earlier process left behind, by kind; what is not gone on with has failed. */
  leftBehind() {
    return unfinishedJobs(this.database.read)
  }

  async giveUp(ids: number[]): Promise<void> {
    const error: Refusal = {
      code: 'interrupted',
      message: 'Hypomet was stopped while this was running; nothing of it was kept. Start it again.',
      place: {},
    }
    if (ids.length > 0) await this.database.write(db => endJobs(db, ids, { status: 'failed', error }))
  }

  /** Ends the threads; what they were at is left for the next process. */
  async close(): Promise<void> {
    await Promise.all(Object.values(this.lanes).map(lane => lane.close()))
  }

  private ask<K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    progress: Progress,
  ): { call: number; result: Promise<ResultOf<K>> } {
    const call = ++this.lastCall
    const result = new Promise<ResultOf<K>>((resolve, reject) =>
      this.lanes[laneOf(kind)].add({ call, kind, payload, resolve: resolve as (v: unknown) => void, reject, progress }),
    )
    return { call, result }
  }
}

function endOf(e: unknown): JobEnd {
  if (!(e instanceof HypometError))
    return { status: 'failed', error: { code: 'internal' as const, message: String(e), place: {} } }
  const error = toRefusal(e)
  return { status: e.code === 'cancelled' ? 'cancelled' : 'failed', error }
}

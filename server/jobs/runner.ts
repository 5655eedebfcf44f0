import type { Worker } from 'node:worker_threads'
import { HypometError } from '@hypomet/core'
import { eq, inArray } from 'drizzle-orm'
import type { Database } from '../db/connection/client'
import { notFound } from '../db/connection/notFound'
import { job } from '../db/schema'
import type { JobKind, PayloadOf, ResultOf } from './handlers'

export interface ToWorker {
  call: number
  kind: string
  payload: unknown
}

export interface FromWorker {
  call: number
  progress?: { share: number; doing: string }
  result?: unknown
  error?: { code: string; message: string; place: Record<string, unknown>; detail?: string }
}

interface Waiting {
  resolve(value: unknown): void
  reject(reason: unknown): void
  progress(share: number, doing: string): void
}

/** Long work has a thread of its own, so that a reduction never waits for an import. */
export type Lane = 'quick' | 'long'
const laneOf = (kind: JobKind): Lane => (kind === 'import' || kind === 'health' || kind === 'steps' ? 'long' : 'quick')

/**
 * Runs heavy work on worker threads that live as long as the server. `call` waits for the result; `start` leaves a
 * row in the job table that a page can follow. Progress stays in memory: a page asks for it often, a crash needs none.
 */
export class JobRunner {
  private readonly lanes = new Map<Lane, Worker>()
  private readonly waiting = new Map<number, Waiting>()
  private readonly running = new Map<number, { call: number; lane: Lane; progress: number; doing: string }>()
  private lastCall = 0

  constructor(
    private readonly database: Database,
    private readonly spawn: (lane: Lane) => Worker,
  ) {}

  call<K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    progress: Waiting['progress'] = () => {},
  ): Promise<ResultOf<K>> {
    return this.ask(kind, payload, progress).result
  }

  /** Starts a job, or goes on with one that an earlier process left. */
  async start<K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    o: { then?: (result: ResultOf<K>) => Promise<unknown>; known?: number } = {},
  ): Promise<number> {
    const id =
      o.known ??
      (await this.database.write(
        async db =>
          (
            await db
              .insert(job)
              .values({ kind, status: 'running', payload, createdAt: new Date().toISOString() })
              .returning({ id: job.id })
          )[0]!.id,
      ))
    const end = (set: Partial<typeof job.$inferInsert>) =>
      this.database.write(db => db.update(job).set(set).where(eq(job.id, id)))
    const { call, result } = this.ask(kind, payload, (progress, doing) =>
      Object.assign(this.running.get(id)!, { progress, doing }),
    )
    this.running.set(id, { call, lane: laneOf(kind), progress: 0, doing: 'waiting for its turn' })
    void result
      .then(async r => end({ status: 'done', progress: 1, doing: '', result: (await o.then?.(r)) ?? r }))
      .catch((e: unknown) =>
        end({
          status: e instanceof HypometError && e.code === 'cancelled' ? 'cancelled' : 'failed',
          error:
            e instanceof HypometError
              ? { code: e.code, message: e.message, place: { ...e.place } }
              : { code: 'internal', message: String(e), place: {} },
        }),
      )
      .finally(() => this.running.delete(id))
    return id
  }

  /** A job as it stands. */
  async state(id: number) {
    const [row] = await this.database.read.select().from(job).where(eq(job.id, id))
    if (!row) throw notFound('job', id)
    const { progress, doing } = this.running.get(id) ?? row
    return { id, kind: row.kind, status: row.status, progress, doing, result: row.result, error: row.error }
  }

  /** Asks a job to stop; it ends at its next step, with nothing kept. */
  cancel(id: number): void {
    const running = this.running.get(id)
    if (!running) throw notFound('running job', id)
    this.lanes.get(running.lane)?.postMessage({ cancel: running.call })
  }

  /** Jobs that an earlier process left behind, by kind; what is not gone on with has failed. */
  async leftBehind() {
    return this.database.read
      .select()
      .from(job)
      .where(inArray(job.status, ['waiting', 'running']))
  }

  async giveUp(ids: number[]): Promise<void> {
    const error = {
      code: 'interrupted',
      message: 'Hypomet was stopped while this was running; nothing of it was kept. Start it again.',
      place: {},
    }
    if (ids.length > 0)
      await this.database.write(db => db.update(job).set({ status: 'failed', error }).where(inArray(job.id, ids)))
  }

  /** Ends the threads; what they were at is left for the next process. */
  async close(): Promise<void> {
    this.waiting.clear()
    await Promise.all([...this.lanes.values()].map(w => w.terminate()))
  }

  private ask<K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    progress: Waiting['progress'],
  ): { call: number; result: Promise<ResultOf<K>> } {
    const call = ++this.lastCall
    const result = new Promise<ResultOf<K>>((resolve, reject) => {
      this.waiting.set(call, { resolve: resolve as (v: unknown) => void, reject, progress })
      this.thread(laneOf(kind)).postMessage({ call, kind, payload } satisfies ToWorker)
    })
    return { call, result }
  }

  private thread(lane: Lane): Worker {
    const known = this.lanes.get(lane)
    if (known) return known
    const worker = this.spawn(lane)
    worker.on('message', (m: FromWorker) => this.hear(m))
    worker.on('error', e => this.lose(lane, e))
    worker.on('exit', code => code !== 0 && this.lose(lane, new Error(`worker ended with ${code}`)))
    this.lanes.set(lane, worker)
    return worker
  }

  private hear({ call, progress, result, error }: FromWorker): void {
    const w = this.waiting.get(call)
    if (!w) return
    if (progress) return w.progress(progress.share, progress.doing)
    this.waiting.delete(call)
    if (error?.detail) console.error(error.detail)
    if (error) w.reject(new HypometError(error.code, error.message, error.place))
    else w.resolve(result)
  }

  private lose(lane: Lane, e: unknown): void {
    this.lanes.delete(lane)
    for (const w of this.waiting.values()) w.reject(e)
    this.waiting.clear()
  }
}

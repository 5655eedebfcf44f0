import { Worker } from 'node:worker_threads'
import { HypometError } from '@hypomet/core'
import { eq, inArray } from 'drizzle-orm'
import type { Database } from '../db/client'
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

/**
 * Runs heavy work on a worker thread that lives as long as the server. `call` waits for the result; `start` leaves a
 * row in the job table that a page can follow.
 */
export class JobRunner {
  private worker: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private lastCall = 0

  constructor(private readonly database: Database, private readonly spawn: () => Worker) {}

  call<K extends JobKind>(kind: K, payload: PayloadOf<K>, progress: Waiting['progress'] = () => {}): Promise<ResultOf<K>> {
    const call = ++this.lastCall
    return new Promise((resolve, reject) => {
      this.waiting.set(call, { resolve: resolve as (v: unknown) => void, reject, progress })
      this.thread().postMessage({ call, kind, payload } satisfies ToWorker)
    })
  }

  async start<K extends JobKind>(kind: K, payload: PayloadOf<K>, then?: (result: ResultOf<K>) => Promise<unknown>): Promise<number> {
    const id = await this.database.write(async db => {
      const [made] = await db.insert(job).values({ kind, status: 'running', payload, createdAt: new Date().toISOString() }).returning({ id: job.id })
      return made!.id
    })
    const update = (set: Partial<typeof job.$inferInsert>) => this.database.write(db => db.update(job).set(set).where(eq(job.id, id)))
    void this.call(kind, payload, (progress, doing) => void update({ progress, doing }))
      .then(async result => update({ status: 'done', progress: 1, doing: '', result: (await then?.(result)) ?? result }))
      .catch((e: unknown) => update({ status: 'failed', error: e instanceof HypometError ? { code: e.code, message: e.message, place: { ...e.place } } : { code: 'internal', message: String(e), place: {} } }))
    return id
  }

  /** Jobs that an earlier process left behind. */
  async sweep(): Promise<void> {
    const error = { code: 'interrupted', message: 'Hypomet was stopped while this was running; nothing of it was kept. Start it again.', place: {} }
    await this.database.write(db => db.update(job).set({ status: 'failed', error }).where(inArray(job.status, ['waiting', 'running'])))
  }

  async close(): Promise<void> {
    await this.worker?.terminate()
  }

  private thread(): Worker {
    if (this.worker) return this.worker
    const worker = this.spawn()
    worker.on('message', (m: FromWorker) => this.hear(m))
    worker.on('error', e => this.lose(e))
    worker.on('exit', code => code !== 0 && this.lose(new Error(`worker ended with ${code}`)))
    return (this.worker = worker)
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

  private lose(e: unknown): void {
    this.worker = null
    for (const w of this.waiting.values()) w.reject(e)
    this.waiting.clear()
  }
}

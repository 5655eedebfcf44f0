import { fromRefusal, HypometError, isHypometError, type Refusal } from '@hypomet/core'
import type { LaneWorker } from './childWorker'

export interface ToWorker {
  call: number
  kind: string
  payload: unknown
}

export interface FromWorker {
  call: number
  progress?: { share: number; doing: string }
  result?: unknown
  error?: Refusal & { detail?: string }
}

export interface Call extends ToWorker {
  resolve(value: unknown): void
  reject(reason: unknown): void
  progress(share: number, doing: string): void
}

/** What a worker may take to come up. */
const START_MS = 3000

/**
 * Calls to one worker thread, one after the other. A thread that dies takes with it the call that it was at and no
 * other:
 * those that wait go to the thread that follows.
 */
export class Lane {
  private worker: LaneWorker | null = null
  private active: Call | null = null
  private readonly queue: Call[] = []

  private clock: NodeJS.Timeout | undefined

  /** @param mostMs  a call may take, once its worker has come up; then it is ended with whoever is at it */
  constructor(
    private readonly spawn: () => LaneWorker,
    private readonly mostMs = Infinity,
  ) {}

  add(call: Call): void {
    this.queue.push(call)
    this.next()
  }

  /** A call under way stops at its next step; one that waits ends at once. */
  cancel(call: number): void {
    const at = this.queue.findIndex(c => c.call === call)
    if (at >= 0)
      this.queue
        .splice(at, 1)[0]!
        .reject(new HypometError('cancelled', 'It was stopped before it began; nothing of it was kept.'))
    else if (this.active?.call === call) this.worker?.postMessage({ cancel: call })
  }

  /** Ends the thread; nobody is told of what it was at. */
  async close(): Promise<void> {
    this.queue.length = 0
    this.active = null
    clearTimeout(this.clock)
    await this.worker?.terminate()
    this.worker = null
  }

  private next(): void {
    if (this.active || this.queue.length === 0) return
    this.active = this.queue.shift()!
    const { call, kind, payload } = this.active
    const mostMs = this.mostMs + (this.worker ? 0 : START_MS)
    try {
      this.thread().postMessage({ call, kind, payload } satisfies ToWorker)
      if (Number.isFinite(mostMs)) this.clock = setTimeout(() => this.giveUp(), mostMs)
    } catch (e) {
      this.end(active => active.reject(e))
    }
  }

  private thread(): LaneWorker {
    if (this.worker) return this.worker
    const worker = this.spawn()
    worker.on('message', (m: FromWorker) => this.receive(m))
    worker.on('error', e => this.lose(worker, e))
    worker.on('exit', () => this.lose(worker, null))
    return (this.worker = worker)
  }

  private receive({ call, progress, result, error }: FromWorker): void {
    if (this.active?.call !== call) return
    if (progress) return this.active.progress(progress.share, progress.doing)
    if (error?.detail) console.error(error.detail)
    this.end(active => (error ? active.reject(fromRefusal(error)) : active.resolve(result)))
  }

  private giveUp(): void {
    const worker = this.worker
    if (!worker || !this.active) return
    void worker.terminate()
    const limit = `${Math.round(this.mostMs / 1000)} s`
    const why = `This takes longer than ${limit} to be looked at: it is too large, or not what it says.`
    this.lose(worker, new HypometError('too-large', why))
  }

  private end(answer: (call: Call) => void): void {
    clearTimeout(this.clock)
    const call = this.active
    this.active = null
    if (call) answer(call)
    this.next()
  }

  private lose(worker: LaneWorker, e: unknown): void {
    if (this.worker !== worker) return
    this.worker = null
    if (e && !isHypometError(e)) console.error(e)
    const lost = new HypometError('worker-lost', 'The process that was at this ended before it was done. Try it again.')
    this.end(active => active.reject(isHypometError(e) ? e : lost))
  }
}

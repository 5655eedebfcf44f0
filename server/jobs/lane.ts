import type { Worker } from 'node:worker_threads'
import { fromRefusal, HypometError, type Refusal } from '@hypomet/core'

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

/**
 * Calls to one worker thread, one after the other. A thread that dies takes with it the call that it was at and no
 * other:
 * those that wait go to the thread that follows.
 */
export class Lane {
  private worker: Worker | null = null
  private active: Call | null = null
  private readonly queue: Call[] = []

  constructor(private readonly spawn: () => Worker) {}

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
    await this.worker?.terminate()
    this.worker = null
  }

  private next(): void {
    if (this.active || this.queue.length === 0) return
    this.active = this.queue.shift()!
    const { call, kind, payload } = this.active
    try {
      this.thread().postMessage({ call, kind, payload } satisfies ToWorker)
    } catch (e) {
      this.end(active => active.reject(e))
    }
  }

  private thread(): Worker {
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

  private end(answer: (call: Call) => void): void {
    const call = this.active
    this.active = null
    if (call) answer(call)
    this.next()
  }

  private lose(worker: Worker, e: unknown): void {
    if (this.worker !== worker) return
    this.worker = null
    if (e) console.error(e)
    this.end(active =>
      active.reject(
        new HypometError('worker-lost', 'The process that was at this ended before it was done. Try it again.'),
      ),
    )
  }
}

import { Worker } from 'node:worker_threads'
import { fromRefusal, isHypometError, toRefusal, type Refusal } from '@hypomet/core'

export type Outcome = { result: unknown } | { refusal: Refusal }

/** A refusal as something that can be sent; anything else is a fault and thrown. */
export async function outcomeOf(work: () => unknown): Promise<Outcome> {
  try {
    return { result: await work() }
  } catch (e) {
    if (!isHypometError(e)) throw e
    return { refusal: toRefusal(e) }
  }
}

/** MB; samples lie outside it. */
const HEAP = 192

/** Threads that live as long as their owner; each piece of work goes to the one with the least to do. */
export class ThreadPool {
  private threads: { worker: Worker; busy: number }[] = []
  private readonly waiting = new Map<
    number,
    { resolve(result: unknown): void; reject(e: unknown): void; thread: { busy: number } }
  >()
  private last = 0

  constructor(
    private readonly script: URL,
    private readonly workerData: unknown,
    readonly size: number,
  ) {}

  ask<T>(message: object, moved: ArrayBuffer[] = []): Promise<T> {
    if (this.threads.length === 0) this.threads = Array.from({ length: this.size }, () => this.started())
    const thread = this.threads.reduce((a, b) => (b.busy < a.busy ? b : a))
    const id = ++this.last
    thread.busy++
    return new Promise<T>((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as (r: unknown) => void, reject, thread })
      thread.worker.postMessage({ id, ...message }, moved)
    })
  }

  /** Tells every thread something that has no answer. */
  tell(message: object): void {
    for (const { worker } of this.threads) worker.postMessage(message)
  }

  private started() {
    const worker = new Worker(this.script, {
      workerData: this.workerData,
      resourceLimits: { maxOldGenerationSizeMb: HEAP },
    })
    const thread = { worker, busy: 0 }
    worker.on('message', ({ id, outcome }: { id: number; outcome: Outcome }) => {
      const asked = this.waiting.get(id)!
      this.waiting.delete(id)
      thread.busy--
      if ('result' in outcome) asked.resolve(outcome.result)
      else asked.reject(fromRefusal(outcome.refusal))
    })
    worker.on('error', e => this.fail(e))
    return thread
  }

  /** A thread that died takes its kind with it: what was asked fails, the next question starts afresh. */
  private fail(e: unknown): void {
    for (const { worker } of this.threads) void worker.terminate()
    this.threads = []
    for (const { reject } of this.waiting.values()) reject(e)
    this.waiting.clear()
  }
}

import type { Worker } from 'node:worker_threads'
import type { Batch, Recorder } from '../db/records/recorder'

type Asked = { store: Batch } | { close: { runId: number; end: string | null } } | { warm: true }
export type ToRecorder = { call: number } & Asked
export interface FromRecorder {
  call: number
  problem: string | null
}

/** The recorder on a thread of its own: storing and packing never keep the watch rules waiting. */
export class ThreadRecorder implements Recorder {
  private thread: Worker | null = null
  private last = 0
  private readonly waiting = new Map<number, { resolve(): void; reject(e: Error): void }>()

  constructor(private readonly spawn: () => Worker) {}

  warm(): Promise<void> {
    return this.ask({ warm: true })
  }

  store(batch: Batch): Promise<void> {
    return this.ask({ store: batch })
  }

  close(runId: number, end: string | null): Promise<void> {
    return this.ask({ close: { runId, end } })
  }

  async stop(): Promise<void> {
    await this.thread?.terminate()
  }

  private ask(what: Asked): Promise<void> {
    const call = ++this.last
    return new Promise((resolve, reject) => {
      this.waiting.set(call, { resolve, reject })
      this.running().postMessage({ call, ...what } satisfies ToRecorder)
    })
  }

  private running(): Worker {
    if (this.thread) return this.thread
    const thread = this.spawn()
    thread.on('message', ({ call, problem }: FromRecorder) => {
      const w = this.waiting.get(call)
      this.waiting.delete(call)
      if (problem === null) w?.resolve()
      else w?.reject(new Error(problem))
    })
    // What was under way is not known to be stored: whoever asked tries again, on a new thread.
    const lose = (e: Error) => {
      if (this.thread !== thread) return
      this.thread = null
      for (const w of this.waiting.values()) w.reject(e)
      this.waiting.clear()
    }
    thread.on('error', lose)
    thread.on('exit', code => lose(new Error(`the recorder’s thread ended with ${code}`)))
    return (this.thread = thread)
  }
}

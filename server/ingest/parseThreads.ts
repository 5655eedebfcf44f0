import { Worker } from 'node:worker_threads'
import type { RowLayout } from '@hypomet/core'
import { answerOf, type ParseAnswer, type ParseOutcome, type ParsePool } from './parseBlock'

/** A pool of threads that parse and pack; each block goes to the thread with the least to do. */
export function parseThreads(script: URL, threads: number): (layout: RowLayout, timeSlot: number) => ParsePool {
  return (layout, timeSlot) => {
    let last = 0
    const waiting = new Map<number, { resolve(a: ParseAnswer): void; reject(e: unknown): void }>()
    const pool = Array.from({ length: threads }, () => ({ busy: 0, worker: new Worker(script, { workerData: { layout, timeSlot } }) }))
    for (const thread of pool) {
      thread.worker.on('message', ({ id, outcome }: { id: number; outcome: ParseOutcome }) => {
        thread.busy--
        const asked = waiting.get(id)!
        waiting.delete(id)
        try {
          asked.resolve(answerOf(outcome))
        } catch (e) {
          asked.reject(e)
        }
      })
      thread.worker.on('error', e => {
        for (const { reject } of waiting.values()) reject(e)
        waiting.clear()
      })
    }
    return {
      width: threads + 2,
      parse(request) {
        const thread = pool.reduce((a, b) => (b.busy < a.busy ? b : a))
        thread.busy++
        const id = ++last
        return new Promise((resolve, reject) => {
          waiting.set(id, { resolve, reject })
          thread.worker.postMessage({ id, request }, [request.bytes.buffer])
        })
      },
      close: () => Promise.all(pool.map(t => t.worker.terminate())),
    }
  }
}

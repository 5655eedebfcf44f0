import { Worker } from 'node:worker_threads'
import { channelHealth, type HealthFlag, type HealthOptions } from '@hypomet/core'
import type { Db } from '../db/client'
import { readSamples } from '../db/samples'

export type LookOver = (timeId: number, channels: { id: number; options: HealthOptions }[]) => AsyncIterable<{ id: number; health: HealthFlag[] }[]>

const CHANNELS_AT_A_TIME = 16

/** Channels looked over a few at a time by as many threads; answers come as they are ready. */
export function lookOverOnThreads(script: URL, url: string, threads: number): LookOver {
  return async function* (timeId, channels) {
    const slices = Array.from({ length: Math.ceil(channels.length / CHANNELS_AT_A_TIME) }, (_, i) => channels.slice(i * CHANNELS_AT_A_TIME, (i + 1) * CHANNELS_AT_A_TIME))
    const workers = Array.from({ length: Math.min(threads, slices.length) }, () => new Worker(script, { workerData: { url, timeId } }))
    const answer = (worker: Worker) => new Promise<{ worker: Worker; found: { id: number; health: HealthFlag[] }[] }>((resolve, reject) => {
      worker.once('message', found => resolve({ worker, found }))
      worker.once('error', reject)
      worker.postMessage(slices.shift())
    })
    try {
      const underway = new Map(workers.map(w => [w, answer(w)]))
      while (underway.size > 0) {
        const { worker, found } = await Promise.race(underway.values())
        worker.removeAllListeners('error')
        underway.delete(worker)
        if (slices.length > 0) underway.set(worker, answer(worker))
        yield found
      }
    } finally {
      await Promise.all(workers.map(w => w.terminate()))
    }
  }
}

export const lookOverHere = (db: Db): LookOver => async function* (timeId, channels) {
  const t = await readSamples(db, timeId)
  for (const { id, options } of channels) yield [{ id, health: channelHealth(t, await readSamples(db, id), options) }]
}

import { Worker } from 'node:worker_threads'
import { channelHealth, type HealthFlag, type HealthOptions } from '@hypomet/core'
import { readChannels, type StoredChannel } from '../db/bulk'
import type { Connection } from '../db/client'

export type AskedChannel = StoredChannel & { options: HealthOptions }

export type FoundHealth = { id: number; health: HealthFlag[] }[]

export type LookOver = (time: StoredChannel, channels: AskedChannel[], rows: number) => AsyncIterable<FoundHealth>

/** Samples that a thread holds at a time, so that memory does not grow with the record. */
const SAMPLES_AT_A_TIME = 2 ** 22
const MOST_CHANNELS = 64

/** Channels looked over a few at a time by as many threads; answers come as they are ready. */
export function lookOverOnThreads(script: URL, url: string, threads: number): LookOver {
  return async function* (time, channels, rows) {
    const size = Math.max(1, Math.min(MOST_CHANNELS, Math.floor(SAMPLES_AT_A_TIME / Math.max(1, rows)), Math.ceil(channels.length / threads)))
    const slices = Array.from({ length: Math.ceil(channels.length / size) }, (_, i) => channels.slice(i * size, (i + 1) * size))
    const workers = Array.from({ length: Math.min(threads, slices.length) }, () => new Worker(script, { workerData: { url, time } }))
    const answer = (worker: Worker) => new Promise<{ worker: Worker; found: FoundHealth }>((resolve, reject) => {
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

/** Looks over some channels of a record, read together. */
export async function lookOverSome(db: Connection, t: Float64Array, channels: AskedChannel[]): Promise<FoundHealth> {
  const samples = await readChannels(db.$client, channels)
  return channels.map(({ id, options }) => ({ id, health: channelHealth(t, samples.get(id)!, options) }))
}

export const lookOverHere = (db: Connection): LookOver => async function* (time, channels) {
  const t = (await readChannels(db.$client, [time])).get(time.id)!
  for (const c of channels) yield lookOverSome(db, t, [c])
}

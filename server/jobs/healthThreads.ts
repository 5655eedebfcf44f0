import { channelHealth, type HealthFlag, type HealthOptions } from '@hypomet/core'
import { readChannels, type StoredChannel } from '../db/bulk'
import type { Connection } from '../db/client'
import type { ThreadPool } from './threadPool'

export type AskedChannel = StoredChannel & { options: HealthOptions }

export type FoundHealth = { id: number; health: HealthFlag[] }[]

export type LookOver = (time: StoredChannel, channels: AskedChannel[], rows: number) => AsyncIterable<FoundHealth>

/** Samples that a thread holds at a time, so that memory does not grow with the record. */
const SAMPLES_AT_A_TIME = 2 ** 20
const MOST_CHANNELS = 64

/** Channels looked over a few at a time by a pool's threads; answers come in order. */
export function lookOverOnThreads(pool: ThreadPool): LookOver {
  let record = 0
  return async function* (time, channels, rows) {
    const mine = ++record
    const size = Math.max(1, Math.min(MOST_CHANNELS, Math.floor(SAMPLES_AT_A_TIME / Math.max(1, rows)), Math.ceil(channels.length / pool.size)))
    const slices = Array.from({ length: Math.ceil(channels.length / size) }, (_, i) => channels.slice(i * size, (i + 1) * size))
    const underway: Promise<FoundHealth>[] = []
    try {
      while (slices.length > 0 || underway.length > 0) {
        while (slices.length > 0 && underway.length < 2 * pool.size) {
          const asked = pool.ask<FoundHealth>({ kind: 'health', record: mine, time, channels: slices.shift()! })
          asked.catch(() => undefined)
          underway.push(asked)
        }
        yield await underway.shift()!
      }
    } finally {
      pool.tell({ kind: 'rest' })
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

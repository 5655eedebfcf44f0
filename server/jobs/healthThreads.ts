import { channelHealth, stepMeans, type HealthFlag, type HealthOptions, type StepSpan } from '@hypomet/core'
import { readChannels, type StoredChannel } from '../db/records/bulk'
import type { Connection } from '../db/connection/client'
import type { ThreadPool } from './threadPool'

export type AskedChannel = StoredChannel & { options: HealthOptions }

export type FoundHealth = { id: number; health: HealthFlag[] }[]

export type LookOver = (time: StoredChannel, channels: AskedChannel[], rows: number) => AsyncIterable<FoundHealth>

/** Samples that a thread holds at a time, so that memory does not grow with the record. */
const SAMPLES_AT_A_TIME = 2 ** 20
const MOST_CHANNELS = 64

/** Channels looked over a few at a time by a pool's threads. */
export function lookOverOnThreads(pool: ThreadPool): LookOver {
  let record = 0
  return (time, channels, rows) => {
    const mine = ++record
    return inSlices(pool, channels, rows, some =>
      pool.ask<FoundHealth>({ kind: 'health', record: mine, time, channels: some }),
    )
  }
}

/** As many channels at a time as a thread should hold, several slices under way; answers come in order. */
async function* inSlices<C, A>(
  pool: ThreadPool,
  channels: C[],
  rows: number,
  ask: (some: C[]) => Promise<A>,
): AsyncGenerator<A> {
  const size = Math.max(
    1,
    Math.min(MOST_CHANNELS, Math.floor(SAMPLES_AT_A_TIME / Math.max(1, rows)), Math.ceil(channels.length / pool.size)),
  )
  const slices = Array.from({ length: Math.ceil(channels.length / size) }, (_, i) =>
    channels.slice(i * size, (i + 1) * size),
  )
  const underway: Promise<A>[] = []
  try {
    while (slices.length > 0 || underway.length > 0) {
      while (slices.length > 0 && underway.length < 2 * pool.size) {
        const asked = ask(slices.shift()!)
        asked.catch(() => undefined)
        underway.push(asked)
      }
      yield await underway.shift()!
    }
  } finally {
    pool.tell({ kind: 'rest' })
  }
}

export type FoundMeans = { id: number; means: number[] }[]

export type MeanOfSteps = (channels: StoredChannel[], spans: StepSpan[], rows: number) => AsyncIterable<FoundMeans>

/** Step means of channels, a few at a time by a pool's threads. */
export function meansOnThreads(pool: ThreadPool): MeanOfSteps {
  return (channels, spans, rows) =>
    inSlices(pool, channels, rows, some => pool.ask<FoundMeans>({ kind: 'means', channels: some, spans }))
}

export async function meansOfSome(db: Connection, channels: StoredChannel[], spans: StepSpan[]): Promise<FoundMeans> {
  const samples = await readChannels(db.$client, channels)
  return channels.map(({ id }) => ({ id, means: Array.from(stepMeans(samples.get(id)!, spans)) }))
}

export const meansHere = (db: Connection): MeanOfSteps =>
  async function* (channels, spans) {
    for (const c of channels) yield meansOfSome(db, [c], spans)
  }

/** Looks over some channels of a record, read together. */
export async function lookOverSome(db: Connection, t: Float64Array, channels: AskedChannel[]): Promise<FoundHealth> {
  const samples = await readChannels(db.$client, channels)
  return channels.map(({ id, options }) => ({ id, health: channelHealth(t, samples.get(id)!, options) }))
}

export const lookOverHere = (db: Connection): LookOver =>
  async function* (time, channels) {
    const t = (await readChannels(db.$client, [time])).get(time.id)!
    for (const c of channels) yield lookOverSome(db, t, [c])
  }

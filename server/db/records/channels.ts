import type { HealthFlag } from '@hypomet/core'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { channel, channelPair, chunk, dataset } from '../schema'
import { writeSamples } from './samples'

export type ChannelRow = typeof channel.$inferSelect

/** Channels of records, in the order in which they were made. */
export const channelsOfRecords = (db: Db, datasetIds: readonly number[]): Promise<ChannelRow[]> =>
  db
    .select()
    .from(channel)
    .where(inArray(channel.datasetId, [...datasetIds]))
    .orderBy(asc(channel.id))

export const setHealth = async (db: Db, channelId: number, health: HealthFlag[]): Promise<void> =>
  void (await db.update(channel).set({ health }).where(eq(channel.id, channelId)))

/** Other samples in the place of a channel's own. */
export async function replaceSamples(db: Db, channelId: number, values: Float64Array): Promise<void> {
  await db.delete(chunk).where(eq(chunk.channelId, channelId))
  await writeSamples(db, channelId, values)
}

export const pairsOfRecord = (db: Db, datasetId: number) =>
  db.select().from(channelPair).where(eq(channelPair.datasetId, datasetId))

/** s by which a record's clock is set. */
export async function clockOffsetOf(db: Db, datasetId: number): Promise<number> {
  const [d] = await db.select({ offset: dataset.clockOffset }).from(dataset).where(eq(dataset.id, datasetId))
  return d?.offset ?? 0
}

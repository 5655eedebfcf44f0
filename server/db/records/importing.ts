import { and, eq, gte, inArray } from 'drizzle-orm'
import type { ImportState } from '../../ingest/state'
import type { Db } from '../connection/client'
import { channel, chunk, dataset } from '../schema'
import { deleteSamples } from './samples'

/* What an import keeps while it is under way, and what it leaves in the end. */

export const channelIdsOf = async (db: Db, datasetId: number): Promise<number[]> =>
  (await db.select({ id: channel.id }).from(channel).where(eq(channel.datasetId, datasetId)).orderBy(channel.id)).map(
    c => c.id,
  )

/** Where an earlier attempt stopped; null for a new one. */
export async function importStateOf(db: Db, datasetId: number): Promise<ImportState | null> {
  const [row] = await db.select({ state: dataset.importState }).from(dataset).where(eq(dataset.id, datasetId))
  return row?.state ?? null
}

/** Takes away chunks of a block that was not complete: those from `seq` on. */
export const dropChunksFrom = async (db: Db, channelIds: number[], seq: number): Promise<void> =>
  void (await db.delete(chunk).where(and(inArray(chunk.channelId, channelIds), gte(chunk.seq, seq))))

export async function dropChannels(db: Db, ids: number[]): Promise<void> {
  if (ids.length === 0) return
  await db.delete(chunk).where(inArray(chunk.channelId, ids))
  await db.delete(channel).where(inArray(channel.id, ids))
}

/** From here on the record can be seen. */
export const markImported = async (
  db: Db,
  datasetId: number,
  { rows, warnings }: { rows: number; warnings: { code: string; message: string }[] },
): Promise<void> =>
  void (await db
    .update(dataset)
    .set({ status: 'ready', rows, warnings, importState: null })
    .where(eq(dataset.id, datasetId)))

/** Takes a half import away; to be called in a transaction. */
export async function discard(db: Db, datasetId: number): Promise<void> {
  await deleteSamples(db, datasetId)
  await db.delete(dataset).where(eq(dataset.id, datasetId))
}

export async function datasetExists(db: Db, id: number): Promise<boolean> {
  const [kept] = await db.select({ id: dataset.id }).from(dataset).where(eq(dataset.id, id))
  return kept !== undefined
}

export async function rowsOf(db: Db, datasetId: number): Promise<number> {
  const [data] = await db.select({ rows: dataset.rows }).from(dataset).where(eq(dataset.id, datasetId))
  return data?.rows ?? 0
}

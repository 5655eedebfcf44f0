import { createHash, type Hash } from 'node:crypto'
import type { RigState } from '@hypomet/core'
import { and, asc, count, eq, gte, lt, max, min, sql, sum } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { channelsOfRecords } from './channels'
import { packChunk } from './packedChunk'
import { insertChunks, samplesOf } from './samples'
import { channel, chunk, dataset, run, runBlock, runEvent, type LiveEvent } from '../schema/index'
import { lockPredictions } from '../tests/tests'

/** Samples of one record that came in together: time first, then its channels in the order of their numbers. */
export interface RecordedBlock {
  datasetId: number
  channelIds: number[]
  start: number
  count: number
  columns: Float64Array[]
}

/** What goes to the store in one transaction: all of it, or nothing. */
export interface Batch {
  runId: number
  testId: number
  blocks: RecordedBlock[]
  events: LiveEvent[]
  state: RigState
  controls: string
}

export interface Recorder {
  /** Resolves when what it is given would be stored at once; a run begins then. */
  warm?(): Promise<void>
  /** Resolves when it is on the disk. @throws when it could not be stored; nothing of it is there then */
  store(batch: Batch): Promise<void>
  /** Makes a recording a record like any other. */
  close(runId: number, end: string | null): Promise<void>
}

/** Runs a change in a transaction of its own. */
export type Write = <T>(change: (db: Db) => Promise<T>) => Promise<T>

/**
 * So many samples of a channel become a chunk; so many of all channels are packed in one go, so that storing never
 * waits long.
 */
const FOLD_AT = 16_384
const PACKED_AT_ONCE = 500_000

interface Tail {
  channelIds: number[]
  /** First sample that is in no chunk yet, and the blocks from there on. */
  start: number
  blocks: RecordedBlock[]
  count: number
  /** Channels of the first `FOLD_AT` that are packed already. */
  packed: number
  chunks: number
}

/**
 * Stores blocks as they come, one row each, and folds them into chunks of the channels by and by. A process that ends
 * at any
 * moment leaves what was stored: channels hold their chunks, and blocks from where those end.
 */
export class StoreRecorder implements Recorder {
  private readonly tails = new Map<number, Tail>()

  constructor(private readonly write: Write) {}

  async store(batch: Batch): Promise<void> {
    const isNew = await this.write(async db => {
      for (const b of batch.blocks) {
        if (b.start === 0) await lockPredictions(db, batch.testId)
        const tail = this.tails.get(b.datasetId) ?? (await tailOf(db, b.datasetId))
        this.tails.set(b.datasetId, tail)
        // Said twice, because whoever stored it did not hear that it was: the whole batch is there.
        if (b.start < tail.start + tail.count) return false
        if (b.start !== tail.start + tail.count)
          throw new Error(`block of record ${b.datasetId} begins at ${b.start}, not at ${tail.start + tail.count}`)
        await db
          .insert(runBlock)
          .values({ datasetId: b.datasetId, start: b.start, count: b.count, data: bytesOf(b.columns) })
      }
      if (batch.events.length > 0)
        await db
          .insert(runEvent)
          .values(batch.events.map(e => ({ ...e, runId: batch.runId, at: new Date().toISOString() })))
      await db.update(run).set({ rigState: batch.state, controls: batch.controls }).where(eq(run.id, batch.runId))
      return true
    })
    if (isNew) await this.fold(batch)
  }

  /** Only what is on the disk is remembered; then, if there is enough of it, some channels are packed. */
  private async fold({ blocks }: Batch): Promise<void> {
    for (const b of blocks) {
      const tail = this.tails.get(b.datasetId)!
      tail.blocks.push(b)
      tail.count += b.count
      if (tail.count < FOLD_AT) continue
      // What was not packed is packed the next time: it is stored all the same.
      await this.write(db => packSome(db, b.datasetId, tail, FOLD_AT, Math.floor(PACKED_AT_ONCE / FOLD_AT))).catch(() =>
        this.tails.delete(b.datasetId),
      )
    }
  }

  async close(runId: number, end: string | null): Promise<void> {
    const records = await this.write(async db => {
      const [r] = await db.select({ datasetId: run.datasetId }).from(run).where(eq(run.id, runId))
      return db
        .select({ id: dataset.id, joins: dataset.joinsId })
        .from(dataset)
        .where(sql`${dataset.id} = ${r!.datasetId} or ${dataset.joinsId} = ${r!.datasetId}`)
    })
    for (const { id, joins } of records) {
      const { sha256, rows } = await this.finish(id)
      await this.write(async db =>
        rows === 0 && joins !== null
          ? forget(db, id)
          : void (await db.update(dataset).set({ status: 'ready', sha256, rows }).where(eq(dataset.id, id))),
      )
    }
    await this.write(
      async db =>
        void (await db
          .update(run)
          .set({ status: 'closed', end: end ?? 'closed early', endedAt: new Date().toISOString() })
          .where(eq(run.id, runId))),
    )
  }

  /** Packs what is left, sums up each channel, and hashes what was recorded; others may write between two channels. */
  private async finish(datasetId: number): Promise<{ sha256: string; rows: number }> {
    const channels = await this.write(async db => {
      const tail = this.tails.get(datasetId) ?? (await tailOf(db, datasetId))
      this.tails.delete(datasetId)
      while (tail.count > 0) await packSome(db, datasetId, tail, tail.packed > 0 ? FOLD_AT : tail.count, Infinity)
      return channelsOfRecords(db, [datasetId])
    })
    const hash = createHash('sha256')
    let rows = 0
    for (const c of channels) rows = await this.write(db => summed(db, c, hash))
    return { sha256: hash.digest('hex'), rows }
  }
}

/** What of a recording lies in blocks only. */
async function tailOf(db: Db, datasetId: number): Promise<Tail> {
  const channelIds = (await channelsOfRecords(db, [datasetId])).map(c => c.id)
  const ends = await Promise.all(
    channelIds.map(
      async id =>
        (
          await db
            .select({ n: sum(chunk.count), chunks: count() })
            .from(chunk)
            .where(eq(chunk.channelId, id))
        )[0]!,
    ),
  )
  // A fold that was broken off has packed some channels further than others.
  const packedTo = ends.map(e => Number(e.n ?? 0))
  const start = Math.min(...packedTo)
  const rows = await db
    .select()
    .from(runBlock)
    .where(and(eq(runBlock.datasetId, datasetId), gte(runBlock.start, start)))
    .orderBy(asc(runBlock.start))
  const blocks = rows.map(r => ({
    datasetId,
    channelIds,
    start: r.start,
    count: r.count,
    columns: columnsOf(r.data, r.count),
  }))
  return {
    channelIds,
    start,
    blocks,
    count: blocks.reduce((n, b) => n + b.count, 0),
    packed: packedTo.filter(n => n > start).length,
    chunks: ends.at(-1)!.chunks,
  }
}

/** Packs some channels of the first `n` samples; with the last of them the blocks go. */
async function packSome(db: Db, datasetId: number, tail: Tail, n: number, most: number): Promise<void> {
  const until = Math.min(tail.channelIds.length, tail.packed + most)
  const rows = []
  for (let i = tail.packed; i < until; i++)
    rows.push({
      channelId: tail.channelIds[i]!,
      seq: tail.chunks,
      start: tail.start,
      ...packChunk(firstOf(tail, i, n)),
    })
  await insertChunks(db, rows)
  tail.packed = until
  if (until < tail.channelIds.length) return
  await keepRest(db, datasetId, tail, n)
}

function firstOf(tail: Tail, column: number, n: number): Float64Array {
  const values = new Float64Array(n)
  let at = 0
  for (const b of tail.blocks) {
    if (at >= n) break
    values.set(b.columns[column]!.subarray(0, Math.min(b.count, n - at)), at)
    at += b.count
  }
  return values
}

/** Takes the blocks that are chunks now away; one that lies across the end is cut. */
async function keepRest(db: Db, datasetId: number, tail: Tail, n: number): Promise<void> {
  const end = tail.start + n
  const across = tail.blocks.find(b => b.start < end && b.start + b.count > end)
  await db.delete(runBlock).where(and(eq(runBlock.datasetId, datasetId), lt(runBlock.start, end)))
  tail.blocks = tail.blocks.filter(b => b.start >= end)
  if (across) {
    const columns = across.columns.map(c => c.slice(end - across.start))
    const rest = { ...across, start: end, count: columns[0]!.length, columns }
    await db.insert(runBlock).values({ datasetId, start: end, count: rest.count, data: bytesOf(columns) })
    tail.blocks.unshift(rest)
  }
  Object.assign(tail, { start: end, count: tail.count - n, packed: 0, chunks: tail.chunks + 1 })
}

function bytesOf(columns: readonly Float64Array[]): Buffer {
  const n = columns[0]?.length ?? 0
  const all = new Float64Array(n * columns.length)
  columns.forEach((c, i) => all.set(c, i * n))
  return Buffer.from(all.buffer)
}

function columnsOf(data: Uint8Array, n: number): Float64Array[] {
  const all = new Float64Array(data.slice().buffer)
  return Array.from({ length: n === 0 ? 0 : all.length / n }, (_, i) => all.subarray(i * n, (i + 1) * n))
}

/** Extremes of a channel from its chunks; its samples go into the hash. */
async function summed(db: Db, c: typeof channel.$inferSelect, hash: Hash): Promise<number> {
  const [outline] = await db
    .select({ min: min(chunk.min), max: max(chunk.max), gaps: sum(chunk.gaps) })
    .from(chunk)
    .where(eq(chunk.channelId, c.id))
  await db
    .update(channel)
    .set({ min: outline!.min, max: outline!.max, gaps: Number(outline!.gaps ?? 0) })
    .where(eq(channel.id, c.id))
  const values = await samplesOf(db, c)
  hash.update(c.role).update(new Uint8Array(values.buffer, values.byteOffset, values.byteLength))
  return values.length
}

async function forget(db: Db, datasetId: number): Promise<void> {
  await db.delete(channel).where(eq(channel.datasetId, datasetId))
  await db.delete(dataset).where(eq(dataset.id, datasetId))
}

/**
 * What a run that goes on, or was broken off, has of some channels so far, up to a number of samples; all of both
 * without.
 */
export async function recordedSoFar(
  db: Db,
  datasetId: number,
  { roles, to = Infinity }: { roles?: readonly string[]; to?: number } = {},
): Promise<Record<string, Float64Array>> {
  const channels = await channelsOfRecords(db, [datasetId])
  const blocks = (
    await db
      .select()
      .from(runBlock)
      .where(and(eq(runBlock.datasetId, datasetId), ...(Number.isFinite(to) ? [lt(runBlock.start, to)] : [])))
      .orderBy(asc(runBlock.start))
  ).map(b => ({ start: b.start, columns: columnsOf(b.data, b.count) }))
  const found: Record<string, Float64Array> = {}
  for (const [i, c] of channels.entries()) {
    if (roles && !roles.includes(c.role)) continue
    const folded = await samplesOf(db, c, 0, to)
    const rest = blocks
      .filter(b => b.start + b.columns[0]!.length > folded.length)
      .map(b => b.columns[i]!.subarray(Math.max(0, folded.length - b.start)))
    const all = new Float64Array(folded.length + rest.reduce((n, r) => n + r.length, 0))
    all.set(folded)
    let at = folded.length
    for (const r of rest) {
      all.set(r, at)
      at += r.length
    }
    found[c.role] = Number.isFinite(to) ? all.subarray(0, to) : all
  }
  return found
}

/** Samples of each channel that are stored, in chunks or in blocks. */
export async function recordedLength(db: Db, datasetId: number): Promise<number> {
  const [first] = await channelsOfRecords(db, [datasetId])
  const [folded] = await db
    .select({ n: sum(chunk.count) })
    .from(chunk)
    .where(eq(chunk.channelId, first!.id))
  const [last] = await db
    .select({ end: max(sql<number>`${runBlock.start} + ${runBlock.count}`) })
    .from(runBlock)
    .where(eq(runBlock.datasetId, datasetId))
  return Math.max(Number(folded!.n ?? 0), Number(last!.end ?? 0))
}

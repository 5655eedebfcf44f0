import { createHash } from 'node:crypto'
import { buildPyramid } from '@hypomet/core'
import { asc, desc, eq, inArray, sum } from 'drizzle-orm'
import type { Db } from './client'
import { channel, chunk, pyramid } from './schema'

const CHUNK_SAMPLES = 131_072

const bytesOf = (values: Float64Array): Buffer => Buffer.from(values.buffer, values.byteOffset, values.byteLength)

/** Copies, because a BLOB's memory need not begin on eight bytes. */
export function floatsOf(data: Uint8Array): Float64Array {
  return new Float64Array(data.slice().buffer)
}

export async function addChannel(db: Db, datasetId: number, role: string, unit: string, sensorId: number | null): Promise<number> {
  const [made] = await db.insert(channel).values({ datasetId, role, unit, sensorId }).returning({ id: channel.id })
  return made!.id
}

/** Appends samples as one chunk; used by the recorder, block by block. */
export async function appendChunk(db: Db, channelId: number, seq: number, values: Float64Array): Promise<void> {
  await db.insert(chunk).values({ channelId, seq, count: values.length, ...summary(values), data: bytesOf(values) })
}

/** Writes a whole channel: chunks and pyramid. */
export async function writeSamples(db: Db, channelId: number, values: Float64Array): Promise<void> {
  for (let at = 0, seq = 0; at < values.length; at += CHUNK_SAMPLES, seq++) await appendChunk(db, channelId, seq, values.subarray(at, at + CHUNK_SAMPLES))
  for (const [i, { factor, data }] of buildPyramid(values).entries()) await db.insert(pyramid).values({ channelId, level: i + 1, factor, data: bytesOf(data) })
}

function summary(values: Float64Array): { min: number | null; max: number | null; mean: number | null } {
  let [min, max, sum, n] = [Infinity, -Infinity, 0, 0]
  for (const v of values) {
    if (Number.isNaN(v)) continue
    if (v < min) min = v
    if (v > max) max = v
    sum += v
    n++
  }
  return n === 0 ? { min: null, max: null, mean: null } : { min, max, mean: sum / n }
}

export async function readSamples(db: Db, channelId: number): Promise<Float64Array> {
  const chunks = await db.select({ count: chunk.count, data: chunk.data }).from(chunk).where(eq(chunk.channelId, channelId)).orderBy(asc(chunk.seq))
  const all = new Float64Array(chunks.reduce((n, c) => n + c.count, 0))
  let at = 0
  for (const c of chunks) {
    all.set(floatsOf(c.data), at)
    at += c.count
  }
  return all
}

export interface StoredTable {
  columns: Record<string, Float64Array>
  units: Record<string, string>
}

export async function readDataset(db: Db, datasetId: number): Promise<StoredTable> {
  const channels = await db.select().from(channel).where(eq(channel.datasetId, datasetId)).orderBy(asc(channel.id))
  const columns: Record<string, Float64Array> = {}
  for (const c of channels) columns[c.role] = await readSamples(db, c.id)
  return { columns, units: Object.fromEntries(channels.map(c => [c.role, c.unit])) }
}

/** Replaces the recorder's small chunks by full ones with a pyramid, and gives the hash of what was recorded. */
export async function consolidate(db: Db, datasetId: number): Promise<{ sha256: string; rows: number }> {
  const channels = await db.select().from(channel).where(eq(channel.datasetId, datasetId)).orderBy(asc(channel.id))
  const hash = createHash('sha256')
  let rows = 0
  for (const c of channels) {
    const values = await readSamples(db, c.id)
    hash.update(c.role).update(bytesOf(values))
    rows = values.length
    await db.delete(chunk).where(eq(chunk.channelId, c.id))
    await writeSamples(db, c.id, values)
  }
  return { sha256: hash.digest('hex'), rows }
}

export async function deleteSamples(db: Db, datasetId: number): Promise<void> {
  const ids = (await db.select({ id: channel.id }).from(channel).where(eq(channel.datasetId, datasetId))).map(c => c.id)
  if (ids.length === 0) return
  await db.delete(pyramid).where(inArray(pyramid.channelId, ids))
  await db.delete(chunk).where(inArray(chunk.channelId, ids))
  await db.delete(channel).where(eq(channel.datasetId, datasetId))
}

export interface Strip {
  /** s */
  t: number[]
  channels: Record<string, { unit: string; min: (number | null)[]; max: (number | null)[] }>
}

/** A range of channels as minima and maxima, about `width` pairs: from the pyramid where the range is long. */
export async function readStrip(db: Db, datasetId: number, roles: string[], width: number): Promise<Strip> {
  const channels = await db.select().from(channel).where(eq(channel.datasetId, datasetId)).orderBy(asc(channel.id))
  const time = channels.find(c => c.role === 't')!
  const t = await pairsOf(db, time.id, width)
  const strip: Strip = { t: t.lo, channels: {} }
  for (const c of channels.filter(c => roles.includes(c.role))) {
    const { lo, hi } = await pairsOf(db, c.id, width)
    const finite = (v: number) => (Number.isNaN(v) ? null : v)
    strip.channels[c.role] = { unit: c.unit, min: lo.map(finite), max: hi.map(finite) }
  }
  return strip
}

async function pairsOf(db: Db, channelId: number, width: number): Promise<{ lo: number[]; hi: number[] }> {
  const levels = await db.select({ id: pyramid.id, factor: pyramid.factor }).from(pyramid).where(eq(pyramid.channelId, channelId)).orderBy(desc(pyramid.level))
  const [stored] = await db.select({ count: sum(chunk.count) }).from(chunk).where(eq(chunk.channelId, channelId))
  const level = levels.find(l => Number(stored!.count ?? 0) / l.factor >= width)
  if (!level) {
    const all = Array.from(await readSamples(db, channelId))
    return { lo: all, hi: all }
  }
  const [row] = await db.select({ data: pyramid.data }).from(pyramid).where(eq(pyramid.id, level.id))
  const data = floatsOf(row!.data)
  const pick = (odd: number) => Array.from({ length: data.length / 2 }, (_, i) => data[2 * i + odd]!)
  return { lo: pick(0), hi: pick(1) }
}

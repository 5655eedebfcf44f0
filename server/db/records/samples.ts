import type { Conversion } from './conversion'
import { converted, EXTREMES_OF, packChunk, type PackedChunk } from './packedChunk'
import { outline } from '@hypomet/core'
import { and, asc, eq, gte, inArray, lt, sql } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { decodeChunk } from './chunkCodec'
import { channelOutline, chunkIndex } from './chunkIndex'
import { channel, chunk } from '../schema'

const CHUNK_SAMPLES = 131_072

/** Strain is a plain ratio; that it was written in millionths says what it is. */
export const isStrain = (c: { unit: string; conversion: Conversion | null }): boolean =>
  c.unit === '1' && c.conversion !== null && c.conversion.multiply / c.conversion.divide === 1e-6

export interface NewChannel {
  datasetId: number
  role: string
  unit: string
  name?: string
  symbol?: string
  used?: boolean
  conversion?: Conversion | null
  sensorId?: number | null
  expression?: string
  labels?: string[]
}

type ChannelRow = typeof channel.$inferSelect

export async function addChannel(db: Db, made: NewChannel): Promise<number> {
  const [row] = await db.insert(channel).values(made).returning({ id: channel.id })
  return row!.id
}

const CHANNELS_A_STATEMENT = 500

/** Several at once, in order. */
export async function addChannels(db: Db, made: NewChannel[]): Promise<number[]> {
  const ids: number[] = []
  for (let i = 0; i < made.length; i += CHANNELS_A_STATEMENT)
    ids.push(
      ...(
        await db
          .insert(channel)
          .values(made.slice(i, i + CHANNELS_A_STATEMENT))
          .returning({ id: channel.id })
      )
        .map(r => r.id)
        .sort((a, b) => a - b),
    )
  return ids
}

/** Appends samples as one chunk; used by the recorder, block by block. */
export async function appendChunk(
  db: Db,
  channelId: number,
  seq: number,
  start: number,
  values: Float64Array,
): Promise<void> {
  await insertChunks(db, [{ channelId, seq, start, ...packChunk(values) }])
}

/** Few enough values a statement for SQLite. */
const ROWS_A_STATEMENT = 500

export async function insertChunks(
  db: Db,
  rows: (PackedChunk & { channelId: number; seq: number; start: number })[],
): Promise<void> {
  for (let i = 0; i < rows.length; i += ROWS_A_STATEMENT)
    await db.insert(chunk).values(rows.slice(i, i + ROWS_A_STATEMENT))
}

/** Writes a whole channel. */
export async function writeSamples(db: Db, channelId: number, values: Float64Array): Promise<void> {
  for (let at = 0, seq = 0; at < values.length; at += CHUNK_SAMPLES, seq++)
    await appendChunk(db, channelId, seq, at, values.subarray(at, at + CHUNK_SAMPLES))
  const { min, max, count } = outline(values)
  await db
    .update(channel)
    .set({ min: count > 0 ? min : null, max: count > 0 ? max : null, gaps: values.length - count })
    .where(eq(channel.id, channelId))
}

async function channelRow(db: Db, channelId: number): Promise<ChannelRow> {
  const [row] = await db.select().from(channel).where(eq(channel.id, channelId))
  return row!
}

export async function readSamples(db: Db, channelId: number): Promise<Float64Array> {
  return samplesOf(db, await channelRow(db, channelId))
}

/** Samples `from` to before `to` of a channel in SI; all without a range. */
export async function samplesOf(db: Db, c: ChannelRow, from = 0, to = Infinity): Promise<Float64Array> {
  const chunks = await db
    .select({ start: chunk.start, count: chunk.count, data: chunk.data })
    .from(chunk)
    .where(
      and(
        eq(chunk.channelId, c.id),
        gte(sql`${chunk.start} + ${chunk.count}`, from),
        ...(Number.isFinite(to) ? [lt(chunk.start, to)] : []),
      ),
    )
    .orderBy(asc(chunk.seq))
  const first = chunks[0]?.start ?? 0
  const all = new Float64Array(chunks.reduce((n, k) => n + k.count, 0))
  for (const k of chunks) all.set(decodeChunk(k.data, k.count), k.start - first)
  return converted(all.subarray(Math.max(0, from - first), Math.max(0, Math.min(all.length, to - first))), c.conversion)
}

export interface StoredTable {
  columns: Record<string, Float64Array>
  units: Record<string, string>
  labels: Record<string, string[]>
}

/** The channels that reductions read. */
export async function readDataset(db: Db, datasetId: number): Promise<StoredTable> {
  const channels = await db
    .select()
    .from(channel)
    .where(and(eq(channel.datasetId, datasetId), eq(channel.used, true)))
    .orderBy(asc(channel.id))
  const columns: Record<string, Float64Array> = {}
  for (const c of channels) columns[c.role] = await samplesOf(db, c)
  return {
    columns,
    units: Object.fromEntries(channels.map(c => [c.role, c.unit])),
    labels: Object.fromEntries(channels.flatMap(c => (c.labels ? [[c.role, c.labels]] : []))),
  }
}

export async function deleteSamples(db: Db, datasetId: number): Promise<void> {
  const ids = db.select({ id: channel.id }).from(channel).where(eq(channel.datasetId, datasetId))
  await db.delete(chunk).where(inArray(chunk.channelId, ids))
  await db.delete(channel).where(eq(channel.datasetId, datasetId))
}

export interface Strip {
  /** s */
  t: number[]
  channels: Record<string, { unit: string; min: (number | null)[]; max: (number | null)[] }>
}

interface Pairs {
  lo: Float64Array
  hi: Float64Array
}

/**
 * A range of time of some channels as minima and maxima, about `width` pairs: from stored extremes where the range is
 * long, from the samples where it is short.
 */
export async function readStrip(
  db: Db,
  datasetId: number,
  roles: string[],
  width: number,
  range: { from: number; to: number } | null = null,
): Promise<Strip> {
  const time = await clockOf(db, datasetId)
  const channels = await db
    .select()
    .from(channel)
    .where(and(eq(channel.datasetId, datasetId), inArray(channel.role, roles)))
    .orderBy(asc(channel.id))
  const span = range ? await spanOf(db, time, range) : null
  const t = await pairsOf(db, time, width, span)
  const strip: Strip = { t: Array.from(t.lo), channels: {} }
  for (const c of channels) {
    const { lo, hi } = await pairsOf(db, c, width, span)
    const finite = (v: number) => (Number.isNaN(v) ? null : v)
    strip.channels[c.role] = { unit: c.unit, min: Array.from(lo, finite), max: Array.from(hi, finite) }
  }
  return strip
}

export interface RecordStrip {
  /** Times of each record that has a channel in it, s. */
  times: number[][]
  channels: { id: number; time: number; min: (number | null)[]; max: (number | null)[] }[]
}

/** A range of time of channels of several records, each on its own clock's samples. */
export async function readStrips(
  db: Db,
  channels: ChannelRow[],
  width: number,
  range: { from: number; to: number } | null,
): Promise<RecordStrip> {
  const strip: RecordStrip = { times: [], channels: [] }
  for (const datasetId of [...new Set(channels.map(c => c.datasetId))]) {
    const some = channels.filter(c => c.datasetId === datasetId)
    const { t, channels: drawn } = await readStrip(
      db,
      datasetId,
      some.map(c => c.role),
      width,
      range,
    )
    const time = strip.times.push(t) - 1
    for (const c of some) strip.channels.push({ id: c.id, time, min: drawn[c.role]!.min, max: drawn[c.role]!.max })
  }
  strip.channels.sort((a, b) => channels.findIndex(c => c.id === a.id) - channels.findIndex(c => c.id === b.id))
  return strip
}

/** The clock of a record. */
export async function clockOf(db: Db, datasetId: number): Promise<ChannelRow> {
  const [time] = await db
    .select()
    .from(channel)
    .where(and(eq(channel.datasetId, datasetId), eq(channel.role, 't')))
  return time!
}

/** The same of values that are not stored. */
export function stripOf(
  t: Float64Array,
  values: Float64Array,
  width: number,
  { from, to }: { from: number; to: number },
): { t: number[]; min: (number | null)[]; max: (number | null)[] } {
  const first = Math.max(0, t.findIndex(v => v >= from) - 1)
  const after = t.findIndex(v => v > to)
  const end = after < 0 ? t.length : after + 1
  const pairs = (v: Float64Array) =>
    thinned(
      Float64Array.from({ length: 2 * (end - first) }, (_, i) => v[first + (i >> 1)]!),
      width,
    )
  const { lo, hi } = pairs(values)
  const finite = (v: number) => (Number.isFinite(v) ? v : null)
  return { t: Array.from(pairs(t).lo), min: Array.from(lo, finite), max: Array.from(hi, finite) }
}

/** Sample numbers of a range of time, one more at either end, so that lines run to the edges. */
export async function spanOf(
  db: Db,
  time: ChannelRow,
  { from, to }: { from: number; to: number },
): Promise<{ first: number; end: number }> {
  const chunks = await chunkIndex(db, time.id)
  const si = (v: number | null) => (v === null ? NaN : converted(Float64Array.of(v), time.conversion)[0]!)
  const within = async (k: (typeof chunks)[number] | undefined, stamp: number, otherwise: number) => {
    if (!k) return otherwise
    const t = await samplesOf(db, time, k.start, k.start + k.count)
    let [low, high] = [0, t.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (t[middle]! < stamp) low = middle + 1
      else high = middle
    }
    return k.start + low
  }
  const total = chunks.reduce((n, k) => n + k.count, 0)
  const first = await within(
    chunks.find(k => si(k.max) >= from),
    from,
    total,
  )
  const end = await within(
    chunks.findLast(k => si(k.min) <= to),
    to,
    0,
  )
  return { first: Math.max(0, first - 1), end: Math.min(total, end + 2) }
}

async function pairsOf(
  db: Db,
  c: ChannelRow,
  width: number,
  span: { first: number; end: number } | null,
): Promise<Pairs> {
  const chunks = await chunkIndex(db, c.id)
  const total = chunks.reduce((n, k) => n + k.count, 0)
  const { first, end } = span ?? { first: 0, end: total }
  if (end - first <= EXTREMES_OF * width) return thinned(await samplesAsPairs(db, c, first, end), width)
  const all = await channelOutline(db, c.id)
  // Every chunk begins a pair of its own.
  let [from, to, pair] = [0, 0, 0]
  for (const k of chunks) {
    const n = Math.ceil(k.count / EXTREMES_OF)
    if (first >= k.start) from = pair + Math.min(n, Math.floor((first - k.start) / EXTREMES_OF))
    if (end > k.start) to = pair + Math.min(n, Math.ceil((end - k.start) / EXTREMES_OF))
    pair += n
  }
  const pairs = all.slice(2 * from, 2 * to)
  return thinned(turned(converted(pairs, c.conversion)), width)
}

async function samplesAsPairs(db: Db, c: ChannelRow, from: number, to: number): Promise<Float64Array> {
  const values = await samplesOf(db, c, from, to)
  const pairs = new Float64Array(2 * values.length)
  for (let i = 0; i < values.length; i++) pairs[2 * i] = pairs[2 * i + 1] = values[i]!
  return pairs
}

/** A negative scale, or a table that falls, makes minima of maxima. */
function turned(pairs: Float64Array): Float64Array {
  for (let i = 0; i < pairs.length; i += 2)
    if (pairs[i]! > pairs[i + 1]!) {
      const lo = pairs[i]!
      pairs[i] = pairs[i + 1]!
      pairs[i + 1] = lo
    }
  return pairs
}

/** Down to `width` pairs or a little fewer; the whole where it is no longer. */
function thinned(pairs: Float64Array, width: number): Pairs {
  const n = pairs.length / 2
  const factor = Math.max(1, Math.ceil(n / width))
  const length = Math.ceil(n / factor)
  const [lo, hi] = [new Float64Array(length), new Float64Array(length)]
  for (let i = 0; i < length; i++) {
    let [least, most] = [Infinity, -Infinity]
    for (let k = 2 * i * factor; k < Math.min(2 * n, 2 * (i + 1) * factor); k += 2) {
      if (pairs[k]! < least) least = pairs[k]!
      if (pairs[k + 1]! > most) most = pairs[k + 1]!
    }
    lo[i] = least <= most ? least : NaN
    hi[i] = least <= most ? most : NaN
  }
  return { lo, hi }
}

import { asc, eq } from 'drizzle-orm'
import { joined } from './bulk'
import type { Db } from '../connection/client'
import { extremesOf } from './packedChunk'
import { chunk } from '../schema'

export interface ChunkEntry {
  seq: number
  start: number
  count: number
  min: number | null
  max: number | null
}

/** Kept for as long as the connection; the oldest go when there are too many. */
class Recent<V> {
  private readonly kept = new Map<number, V>()
  private size = 0

  constructor(
    private readonly most: number,
    private readonly sizeOf: (v: V) => number,
  ) {}

  get(key: number): V | undefined {
    const found = this.kept.get(key)
    if (found !== undefined) {
      this.kept.delete(key)
      this.kept.set(key, found)
    }
    return found
  }

  delete(key: number): void {
    const found = this.kept.get(key)
    if (found !== undefined && this.kept.delete(key)) this.size -= this.sizeOf(found)
  }

  set(key: number, value: V): void {
    this.kept.set(key, value)
    this.size += this.sizeOf(value)
    for (const [oldest, v] of this.kept) {
      if (this.size <= this.most) break
      this.kept.delete(oldest)
      this.size -= this.sizeOf(v)
    }
  }
}

const MOST_ENTRIES = 200_000
const MOST_PAIRS = 4_000_000

const caches = new WeakMap<Db, { index: Recent<ChunkEntry[]>; outline: Recent<Float64Array> }>()

function cacheOf(db: Db) {
  const known = caches.get(db)
  if (known) return known
  const made = {
    index: new Recent<ChunkEntry[]>(MOST_ENTRIES, e => e.length),
    outline: new Recent<Float64Array>(MOST_PAIRS, p => p.length / 2),
  }
  caches.set(db, made)
  return made
}

/** Channels that have been written anew. */
export function forgetChannels(db: Db, ids: number[]): void {
  const { index, outline } = cacheOf(db)
  for (const id of ids) {
    index.delete(id)
    outline.delete(id)
  }
}

/**
 * Where a channel's chunks begin and what they span, as stored. Only for records that are complete: those never change.
 */
export async function chunkIndex(db: Db, channelId: number): Promise<ChunkEntry[]> {
  const { index } = cacheOf(db)
  const known = index.get(channelId)
  if (known) return known
  const found = await db
    .select({ seq: chunk.seq, start: chunk.start, count: chunk.count, min: chunk.min, max: chunk.max })
    .from(chunk)
    .where(eq(chunk.channelId, channelId))
    .orderBy(asc(chunk.seq))
  index.set(channelId, found)
  return found
}

/** A whole channel's stored extremes, pair after pair, as stored; every chunk begins a pair of its own. */
export async function channelOutline(db: Db, channelId: number): Promise<Float64Array> {
  const { outline } = cacheOf(db)
  const known = outline.get(channelId)
  if (known) return known
  const rows = await db
    .select({ count: chunk.count, extremes: chunk.extremes })
    .from(chunk)
    .where(eq(chunk.channelId, channelId))
    .orderBy(asc(chunk.seq))
  const pairs = joined(rows.map(extremesOf))
  outline.set(channelId, pairs)
  return pairs
}

import type { Client, InStatement } from '@libsql/client'
import type { HealthFlag } from '@hypomet/core'
import { decodeChunk } from './chunkCodec'
import type { PackedChunk } from './packedChunk'
import { converted } from './packedChunk'
import { type Conversion } from './conversion'

/* Thousands of rows at a time go past the query builder: it would take longer than the database does. */

export interface ChunkRow extends PackedChunk {
  channelId: number
  seq: number
  start: number
}

const COLUMNS = 'channel_id, seq, start, count, gaps, min, max, mean, data, extremes, sum'
const ROWS_A_STATEMENT = 128
/** Few enough in a transaction that nobody else waits for long. */
const ROWS_A_TRANSACTION = 512

const marks = (rows: number): string => Array.from({ length: rows }, () => '(?,?,?,?,?,?,?,?,?,?,?)').join(',')

/** Stores chunks; `last` goes into the transaction of the last of them. */
export async function storeChunks(client: Client, rows: ChunkRow[], last: InStatement): Promise<void> {
  for (let from = 0; from < rows.length || from === 0; from += ROWS_A_TRANSACTION) {
    const some = rows.slice(from, from + ROWS_A_TRANSACTION)
    const statements: InStatement[] = []
    for (let i = 0; i < some.length; i += ROWS_A_STATEMENT) {
      const part = some.slice(i, i + ROWS_A_STATEMENT)
      statements.push({
        sql: `INSERT INTO chunk (${COLUMNS}) VALUES ${marks(part.length)}`,
        args: part.flatMap(r => [
          r.channelId,
          r.seq,
          r.start,
          r.count,
          r.gaps,
          r.min,
          r.max,
          r.mean,
          r.data,
          r.extremes,
          r.sum,
        ]),
      })
    }
    if (from + ROWS_A_TRANSACTION >= rows.length) statements.push(last)
    await client.batch(statements, 'write')
  }
}

export interface StoredChannel {
  id: number
  conversion: Conversion | null
}

/** Samples of several channels in SI, by their ids. */
export async function readChannels(client: Client, channels: StoredChannel[]): Promise<Map<number, Float64Array>> {
  const { rows } = await client.execute({
    sql:
      `SELECT channel_id, count, data FROM chunk WHERE channel_id IN (${channels.map(() => '?').join(',')}) ` +
      `ORDER BY channel_id, seq`,
    args: channels.map(c => c.id),
  })
  const parts = new Map<number, Float64Array[]>(channels.map(c => [c.id, []]))
  for (const row of rows)
    parts.get(row[0] as number)!.push(decodeChunk(new Uint8Array(row[2] as ArrayBuffer), row[1] as number))
  return new Map(channels.map(c => [c.id, converted(joined(parts.get(c.id)!), c.conversion)]))
}

/** Pieces of a channel, one after the other. */
export function joined(parts: Float64Array[]): Float64Array {
  if (parts.length === 1) return parts[0]!
  const all = new Float64Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of parts) {
    all.set(p, at)
    at += p.length
  }
  return all
}

/** What channels span, for lists that need not read them. */
export async function storeExtents(
  client: Client,
  extents: { id: number; min: number | null; max: number | null; gaps: number }[],
): Promise<void> {
  for (let i = 0; i < extents.length; i += ROWS_A_TRANSACTION)
    await client.batch(
      extents.slice(i, i + ROWS_A_TRANSACTION).map(e => ({
        sql: 'UPDATE channel SET min = ?, max = ?, gaps = ? WHERE id = ?',
        args: [e.min, e.max, e.gaps, e.id],
      })),
      'write',
    )
}

export async function storeHealth(client: Client, found: { id: number; health: HealthFlag[] }[]): Promise<void> {
  await client.batch(
    found.map(f => ({ sql: 'UPDATE channel SET health = ? WHERE id = ?', args: [JSON.stringify(f.health), f.id] })),
    'write',
  )
}

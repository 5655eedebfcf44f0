import { Readable } from 'node:stream'
import { eq } from 'drizzle-orm'
import type { Db } from '../db/client'
import { samplesOf, spanOf } from '../db/samples'
import { channel } from '../db/schema'

const ROWS_AT_A_TIME = 4096

/** Rows of a record as text, a few thousand at a time, so that memory does not grow with the stretch. */
export function exportCsv(db: Db, datasetId: number, ids: number[], range: { from: number; to: number }): Readable {
  return Readable.from(rows(db, datasetId, ids, range))
}

async function* rows(db: Db, datasetId: number, ids: number[], range: { from: number; to: number }): AsyncGenerator<string> {
  const all = await db.select().from(channel).where(eq(channel.datasetId, datasetId))
  const time = all.find(c => c.role === 't')!
  const wanted = ids.map(id => all.find(c => c.id === id)!)
  const { first, end } = await spanOf(db, time, range)
  yield ['t [s]', ...wanted.map(c => quoted(c.unit ? `${c.name || c.role} [${c.unit}]` : c.name || c.role))].join(',') + '\n'
  for (let at = first; at < end; at += ROWS_AT_A_TIME) {
    const to = Math.min(end, at + ROWS_AT_A_TIME)
    const t = await samplesOf(db, time, at, to)
    const columns = await Promise.all(wanted.map(c => samplesOf(db, c, at, to)))
    let text = ''
    for (let i = 0; i < t.length; i++) if (t[i]! >= range.from && t[i]! <= range.to) text += [t[i]!, ...columns.map(c => (Number.isNaN(c[i]!) ? '' : c[i]!))].join(',') + '\n'
    yield text
  }
}

const quoted = (name: string): string => (/[",\n]/.test(name) ? `"${name.replaceAll('"', '""')}"` : name)

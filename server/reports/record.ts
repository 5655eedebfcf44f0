import { Readable } from 'node:stream'
import { resample, writeCsv } from '@hypomet/core'
import type { Db } from '../db/connection/client'
import { clockOf, samplesOf, spanOf } from '../db/records/samples'
import type { channel } from '../db/schema'

const ROWS_AT_A_TIME = 4096

type Channel = typeof channel.$inferSelect

/**
 * Rows of a record as text, a few thousand at a time, so that memory does not grow with the stretch. Channels of
 * records that
 * join it come on its clock, straight between their samples.
 */
export function exportCsv(db: Db, mainId: number, wanted: Channel[], range: { from: number; to: number }): Readable {
  return Readable.from(rows(db, mainId, wanted, range))
}

async function* rows(
  db: Db,
  mainId: number,
  wanted: Channel[],
  range: { from: number; to: number },
): AsyncGenerator<string> {
  // A record of its own that was not asked for lends no clock.
  const own = wanted.some(c => c.datasetId === mainId) ? mainId : wanted[0]!.datasetId
  const time = await clockOf(db, own)
  const { first, end } = await spanOf(db, time, range)
  yield writeCsv([['t [s]', ...wanted.map(c => (c.unit ? `${c.name || c.role} [${c.unit}]` : c.name || c.role))]])
  for (let at = first; at < end; at += ROWS_AT_A_TIME) {
    const to = Math.min(end, at + ROWS_AT_A_TIME)
    const t = await samplesOf(db, time, at, to)
    const columns = await Promise.all(
      wanted.map(c => (c.datasetId === own ? samplesOf(db, c, at, to) : onClock(db, c, t))),
    )
    const asked = [...t.keys()].filter(i => t[i]! >= range.from && t[i]! <= range.to)
    yield writeCsv(asked.map(i => [t[i]!, ...columns.map(c => c[i]!)]))
  }
}

async function onClock(db: Db, c: Channel, t: Float64Array): Promise<Float64Array> {
  const time = await clockOf(db, c.datasetId)
  const { first, end } = await spanOf(db, time, { from: t[0]!, to: t.at(-1)! })
  return resample(await samplesOf(db, time, first, end), await samplesOf(db, c, first, end), t, 'linear')
}

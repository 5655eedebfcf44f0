import { resample, STRUCK, strikesIn, withStrikes, type StoredRecord, type Strike } from '@hypomet/core'
import { and, asc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { recordsTogether } from './clocks'
import { clockOf, readDataset, samplesOf, type StoredTable } from './samples'
import { ROWS_CLOCK } from '../../ingest/fileColumns'
import { channel, run, runEvent } from '../schema'

/** Samples of a slower logger that may lie between two that are there. */
const LONGEST_GAP = 5

/** The channels that reductions read, of the main record and of those that join it, on the main one's clock. */
export async function readTogether(db: Db, datasetId: number): Promise<StoredTable> {
  const [main, ...others] = await recordsTogether(db, datasetId)
  const table = await readDataset(db, main!.id)
  const t = table.columns['t']!
  for (const other of others) {
    const { columns, units } = await readDataset(db, other.id)
    const own = columns['t']!
    const longest = (LONGEST_GAP * (own.at(-1)! - own[0]!)) / Math.max(1, own.length - 1)
    for (const [role, y] of Object.entries(columns))
      if (!(role in table.columns)) {
        table.columns[role] = resample(own, y, t, 'linear', longest)
        table.units[role] = units[role]!
      }
  }
  return { ...table, columns: withStrikes(table.columns, await strikesOf(db, main!.id)) }
}

/** Readings by hand of a record that were struck out, with the right ones. */
export async function strikesOf(db: Db, datasetId: number): Promise<Strike[]> {
  const said = await db
    .select({ t: runEvent.t, kind: runEvent.kind, reading: runEvent.reading, role: runEvent.role })
    .from(runEvent)
    .innerJoin(run, eq(run.id, runEvent.runId))
    .where(and(eq(run.datasetId, datasetId), inArray(runEvent.kind, ['call-out', STRUCK])))
    .orderBy(asc(runEvent.id))
  return strikesIn(said)
}

/** A record as reductions read it. */
export async function storedRecord(db: Db, datasetId: number, name: string): Promise<StoredRecord> {
  const [clock] = await db
    .select({ name: channel.name })
    .from(channel)
    .where(and(eq(channel.datasetId, datasetId), eq(channel.role, 't')))
  return { ...(await readTogether(db, datasetId)), hasClock: clock?.name !== ROWS_CLOCK, name }
}

/** Samples of a channel on the main record's clock. */
export async function onMainClock(
  db: Db,
  c: typeof channel.$inferSelect,
  main: number,
  t: Float64Array,
): Promise<Float64Array> {
  const y = await samplesOf(db, c)
  return c.datasetId === main ? y : resample(await samplesOf(db, await clockOf(db, c.datasetId)), y, t, 'linear')
}

import { resample, STRUCK, strikesIn, withStrikes, type StoredRecord, type Strike } from '@hypomet/core'
import { and, asc, eq, inArray } from 'drizzle-orm'
import { channelsOfRecords } from './channels'
import { namesTogether, symbolsTogether } from './symbols'
import type { Db } from '../connection/client'
import { recordsTogether } from './clocks'
import { clockOf, isStrain, readDataset, samplesOf, type StoredTable } from './samples'
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

/**
 * A record as reductions read it, with what else of its channels settings call by name: by its symbol, whether a
 * reduction reads it or not.
 *
 * @param asked  names of channels, of which those count that are no roles
 */
export async function storedRecord(
  db: Db,
  datasetId: number,
  name: string,
  asked: readonly string[] = [],
): Promise<StoredRecord & { further: { symbol: string; name: string; unit: string }[] }> {
  const together = await recordsTogether(db, datasetId)
  const main = together[0]!.id
  const rows = await channelsOfRecords(
    db,
    together.map(d => d.id),
  )
  const clock = rows.find(c => c.datasetId === datasetId && c.role === 't')
  const table = await readTogether(db, datasetId)
  const named = namesTogether(rows)
  const read = rows.filter(c => c.used && c.role in table.columns)
  const beside = asked.flatMap(symbol => {
    const c = named.get(symbol)
    return c && c.role !== 't' && !read.includes(c) && !c.labels ? [[symbol, c] as const] : []
  })
  const columns = []
  for (const [symbol, c] of beside) {
    const y = await onMainClock(db, c, main, table.columns['t']!)
    columns.push([symbol, { y, unit: c.unit, isStrain: isStrain(c) }] as const)
  }
  const symbols = symbolsTogether(rows)
  const aliases = read.flatMap(c => {
    const symbol = symbols.get(c.id)
    return symbol === undefined || symbol === c.role || symbol in table.columns ? [] : [[symbol, c.role] as const]
  })
  return {
    ...table,
    hasClock: clock?.name !== ROWS_CLOCK,
    name,
    aliases: Object.fromEntries(aliases),
    beside: Object.fromEntries(columns),
    strains: read.filter(isStrain).map(c => c.role),
    further: rows.flatMap(c => {
      const symbol = symbols.get(c.id)
      const isFurther = symbol !== undefined && c.role !== 't' && !c.labels && !read.includes(c)
      return isFurther ? [{ symbol, name: c.name || c.role, unit: c.unit }] : []
    }),
  }
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

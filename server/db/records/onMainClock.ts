import {
  isHypometError,
  namesIn,
  parseExpression,
  resample,
  STRUCK,
  strikesIn,
  withStrikes,
  type KeptDerived,
  type StoredRecord,
  type Strike,
} from '@hypomet/core'
import { and, asc, eq, inArray } from 'drizzle-orm'
import { channelsOfRecords } from './channels'
import { plannedDerived } from './plannedDerived'
import { namesTogether, symbolsTogether } from './symbols'
import type { Db } from '../connection/client'
import { recordsTogether } from './clocks'
import { clockOf, isStrain, readDataset, samplesOf, type StoredTable } from './samples'
import { ROWS_CLOCK } from '../../ingest/fileColumns'
import { channel, run, runEvent } from '../schema'

type Channel = typeof channel.$inferSelect

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
  const { columns, ...table } = await readTogether(db, datasetId)
  const symbols = symbolsTogether(rows)
  const read = rows.filter(c => c.used && c.role in columns)
  const own = read.filter(c => c.expression === null)
  const { derived, beside } = closureOf(rows, read, asked, await plannedDerived(db, together[0]!.testId))
  const further: [string, { y: Float64Array; unit: string; isStrain: boolean }][] = []
  for (const [name, c] of beside)
    further.push([name, { y: await onMainClock(db, c, main, columns['t']!), unit: c.unit, isStrain: isStrain(c) }])
  const aliases = read.flatMap(c => {
    const symbol = symbols.get(c.id)
    return symbol === undefined || symbol === c.role || symbol in columns ? [] : [[symbol, c.role] as const]
  })
  return {
    ...table,
    columns: Object.fromEntries(
      Object.entries(columns).filter(([role]) => role === 't' || own.some(c => c.role === role)),
    ),
    hasClock: clock?.name !== ROWS_CLOCK,
    name,
    aliases: Object.fromEntries(aliases),
    beside: Object.fromEntries(further),
    strains: own.filter(isStrain).map(c => c.role),
    derived,
    further: rows.flatMap(c => {
      const symbol = symbols.get(c.id)
      const isFurther = symbol !== undefined && c.role !== 't' && !c.labels && !read.includes(c)
      return isFurther ? [{ symbol, name: c.name || c.role, unit: c.unit }] : []
    }),
  }
}

/**
 * What is needed for some names beside the channels that reductions read: channels that were read, and those derived,
 * each after those that it is derived from.
 */
function closureOf(
  rows: readonly Channel[],
  read: readonly Channel[],
  asked: readonly string[],
  planned: readonly { role: string; expression: string }[],
) {
  const named = namesTogether(rows)
  const derived: KeptDerived[] = []
  const beside = new Map<string, Channel>()
  const need = (name: string, c: Channel, used: boolean): void => {
    if (c.role === 't' || c.labels || derived.some(d => d.role === name)) return
    if (c.expression === null) {
      if (!used) beside.set(name, c)
      return
    }
    for (const n of namesInside(c.expression)) {
      const of = named.get(n)
      if (of && of !== c && !(read.includes(of) && of.expression === null)) need(nameOf(of, n), of, of.used)
    }
    derived.push({ role: name, expression: c.expression, used })
  }
  /** What reductions read goes by its role. */
  const nameOf = (c: Channel, called: string) => (read.includes(c) ? c.role : called)
  for (const c of read) if (c.expression !== null) need(c.role, c, true)
  // What the plan derives, where the record has what it is derived from and brings it by no column of its own.
  for (const { role, expression } of planned) {
    const isDerived = (n: string) => derived.some(d => d.role === n)
    const names = namesSafely(expression)
    if (read.some(c => c.role === role) || !names?.every(n => named.has(n) || isDerived(n))) continue
    for (const n of names) {
      const of = named.get(n)
      if (of && !isDerived(n) && !(read.includes(of) && of.expression === null)) need(nameOf(of, n), of, of.used)
    }
    derived.push({ role, expression, used: true })
  }
  for (const name of asked) {
    const c = named.get(name)
    if (c && !read.includes(c) && !derived.some(d => d.role === name)) need(name, c, false)
  }
  return { derived, beside }
}

/** Of a plan that is still in the making an expression may be none. */
function namesSafely(expression: string): string[] | null {
  try {
    return namesInside(expression)
  } catch (e) {
    if (isHypometError(e)) return null
    throw e
  }
}

const namesInside = (expression: string): string[] => namesIn(parseExpression(expression))

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

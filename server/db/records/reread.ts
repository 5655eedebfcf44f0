import { HypometError, type ChannelMap } from '@hypomet/core'
import { and, eq, inArray, isNull } from 'drizzle-orm'
import type { FileReading } from '../../ingest/reading'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { channel, channelPair, chunk, dataset } from '../schema'
import { channelsOfRecords, type ChannelRow } from './channels'

/** What is said of a file otherwise than when it was imported. */
export interface ReadAgain {
  reading: FileReading
  /** The column of time and its unit; left out, it stays; null: it has none, and `reading.rate` counts. */
  clock?: { column: string; unit: string } | null | undefined
}

/** A record that nobody sees until its file has been read again into it. @throws HypometError `not-found`, `no-data` */
export function beginReread(database: Database, by: string, datasetId: number, said: ReadAgain) {
  return database.write(async db => {
    const [old] = await db
      .select()
      .from(dataset)
      .where(and(eq(dataset.id, datasetId), eq(dataset.status, 'ready')))
    if (!old) throw notFound('record', datasetId)
    if (old.source !== 'file' || !old.sha256 || !old.channelMap)
      throw new HypometError('no-data', 'What a rig, a stream or a crew wrote has no file to be read again.')
    const { t, ...others } = old.channelMap as ChannelMap
    const clock = said.clock === undefined ? t : (said.clock ?? undefined)
    const reading = { ...said.reading, units: said.reading.units ?? old.reading?.units }
    const channelMap = { ...(clock ? { t: clock } : {}), ...others }
    const [made] = await db
      .insert(dataset)
      .values({
        testId: old.testId,
        source: 'file',
        name: old.name,
        status: 'importing',
        sha256: old.sha256,
        channelMap,
        reading,
        joinsId: old.joinsId,
        warnings: [],
        createdAt: old.createdAt,
      })
      .returning()
    await audit(db, {
      who: by,
      what: 'read again',
      entity: 'dataset',
      entityId: datasetId,
      before: { reading: old.reading, clock: t ?? null },
      after: { reading: said.reading, clock: clock ?? null },
    })
    return { ...made!, clockOffset: old.clockOffset }
  })
}

/**
 * Puts what was read again into the place of what was read before: channels keep their sensors, their symbols and what
 * was said of them since; those derived stay, to be worked out anew.
 */
export function finishReread(database: Database, datasetId: number, madeId: number) {
  return database.write(async db => {
    const [made] = await db.select().from(dataset).where(eq(dataset.id, madeId))
    const [old, anew] = [await readOf(db, datasetId), await readOf(db, madeId)]
    const twins = new Map(anew.map(c => [c.id, twinOf(c, old)]))
    const left = old.filter(c => ![...twins.values()].includes(c))
    const derivedNames = (await channelsOfRecords(db, [datasetId])).filter(c => c.expression !== null).map(c => c.role)
    const oldIds = old.map(c => c.id)
    // What two channels of the old reading agreed on, those of the new one do.
    for (const [id, twin] of twins)
      if (twin) {
        await db.update(channelPair).set({ a: id }).where(eq(channelPair.a, twin.id))
        await db.update(channelPair).set({ b: id }).where(eq(channelPair.b, twin.id))
      }
    const leftIds = left.map(c => c.id)
    await db.delete(channelPair).where(inArray(channelPair.a, leftIds))
    await db.delete(channelPair).where(inArray(channelPair.b, leftIds))
    for (let i = 0; i < oldIds.length; i += 500) {
      const some = oldIds.slice(i, i + 500)
      await db.delete(chunk).where(inArray(chunk.channelId, some))
      await db.delete(channel).where(inArray(channel.id, some))
    }
    for (const c of anew) {
      const twin = twins.get(c.id)
      const role = derivedNames.includes(c.role) ? `${c.name} (column)` : c.role
      await db
        .update(channel)
        .set({ datasetId, role, ...(twin ? { sensorId: twin.sensorId, symbol: twin.symbol } : {}) })
        .where(eq(channel.id, c.id))
    }
    const { rows, reading, channelMap } = made!
    // What was said of its channels since still holds, and still says so.
    const [before] = await db.select({ warnings: dataset.warnings }).from(dataset).where(eq(dataset.id, datasetId))
    const warnings = [...made!.warnings, ...before!.warnings.filter(w => w.code === 'mended')]
    await db.update(dataset).set({ rows, warnings, reading, channelMap }).where(eq(dataset.id, datasetId))
    await db.delete(dataset).where(eq(dataset.id, madeId))
  })
}

const readOf = (db: Db, datasetId: number): Promise<ChannelRow[]> =>
  db
    .select()
    .from(channel)
    .where(and(eq(channel.datasetId, datasetId), isNull(channel.expression)))

/** The same column as it was read before: by its name, a clock by being one. */
const twinOf = (c: ChannelRow, old: readonly ChannelRow[]): ChannelRow | undefined =>
  old.find(o => o.name === c.name) ?? (c.role === 't' ? old.find(o => o.role === 't') : undefined)

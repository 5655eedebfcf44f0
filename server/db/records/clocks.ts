import { HypometError } from '@hypomet/core'
import { and, eq, isNull, or } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { channel, dataset } from '../schema'

/** Sets a record's clock by so many seconds against its file's own; nothing of what was imported changes. */
export async function setClock(db: Db, datasetId: number, offset: number): Promise<void> {
  const [d] = await db.select({ before: dataset.clockOffset }).from(dataset).where(eq(dataset.id, datasetId))
  if (!d) throw notFound('record', datasetId)
  const channels = await db.select().from(channel).where(eq(channel.datasetId, datasetId))
  const time = channels.find(c => c.role === 't')!
  await db
    .update(channel)
    .set({ conversion: { ...(time.conversion ?? { scale: 1, shift: 0, multiply: 1, divide: 1 }), add: offset } })
    .where(eq(channel.id, time.id))
  for (const c of channels)
    if (c.health?.some(f => f.at !== undefined))
      await db
        .update(channel)
        .set({ health: c.health.map(f => (f.at === undefined ? f : { ...f, at: f.at + offset - d.before })) })
        .where(eq(channel.id, c.id))
  await db.update(dataset).set({ clockOffset: offset }).where(eq(dataset.id, datasetId))
}

export function moveClock(database: Database, by: string, datasetId: number, offset: number) {
  return database.write(async db => {
    const [d] = await db.select().from(dataset).where(eq(dataset.id, datasetId))
    if (!d) throw notFound('record', datasetId)
    if (d.joinsId === null)
      throw new HypometError('main-clock', 'This is the record to whose clock the others are set.', { path: 'offset' })
    await setClock(db, datasetId, offset)
    await audit(db, {
      who: by,
      what: 'clock',
      entity: 'dataset',
      entityId: datasetId,
      before: { offset: d.clockOffset },
      after: { offset },
    })
  })
}

/** A main record and those that join it, the main one first; whichever of them is named. */
export async function recordsTogether(db: Db, datasetId: number): Promise<(typeof dataset.$inferSelect)[]> {
  const [named] = await db
    .select()
    .from(dataset)
    .where(and(eq(dataset.id, datasetId), eq(dataset.status, 'ready')))
  if (!named) throw notFound('record', datasetId)
  const main = named.joinsId ?? named.id
  const all = await db
    .select()
    .from(dataset)
    .where(and(or(eq(dataset.id, main), eq(dataset.joinsId, main)), eq(dataset.status, 'ready')))
    .orderBy(dataset.id)
  return all.toSorted((a, b) => Number(b.id === main) - Number(a.id === main))
}

/** The main record that a test's reductions read: the newest. */
export async function mainRecord(db: Db, testId: number) {
  const all = await db
    .select()
    .from(dataset)
    .where(and(eq(dataset.testId, testId), eq(dataset.status, 'ready'), isNull(dataset.joinsId)))
    .orderBy(dataset.id)
  return all.at(-1) ?? null
}

import { eq } from 'drizzle-orm'
import { HypometError, KINDS, namesAsked, namesIn, parseExpression, siUnit, type Kind } from '@hypomet/core'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { listSensors } from '../registers/inventory'
import { keptOf } from '../results/reductions'
import { article, channel, revision, test } from '../schema'
import { channelsOfRecords } from './channels'
import { mainRecord, recordsTogether } from './clocks'
import { assertTest, rolesToGive } from './datasets'
import { saidOf } from './said'
import { namesTogether } from './symbols'

/** Channels that a test's newest record is reduced from. */
async function usedChannels(db: Db, testId: number) {
  const main = await mainRecord(db, testId)
  if (!main) return []
  const together = (await recordsTogether(db, main.id)).map(d => d.id)
  const all = await channelsOfRecords(db, together)
  // Beside what reductions read by its role: what those read are worked out from, and what results of one's own read.
  const named = namesTogether(all)
  const inside = (expression: string) => namesIn(parseExpression(expression)).flatMap(n => named.get(n) ?? [])
  const asked = [
    ...(await keptOf(db, testId).then(k => namesAsked(k?.settings))),
    ...namesAsked({ own: await ownOf(db, testId) }),
  ]
  const read = new Set(all.filter(c => c.used && c.role !== 't'))
  for (const name of asked) if (named.has(name)) read.add(named.get(name)!)
  // What is added while it is gone through is gone through as well.
  for (const c of read) if (c.expression !== null) for (const of of inside(c.expression)) read.add(of)
  return all.filter(c => read.has(c) && c.role !== 't')
}

/** Results that the article of a test has of its own. */
async function ownOf(db: Db, testId: number) {
  const [found] = await db
    .select({ own: article.own })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(eq(test.id, testId))
  return found?.own ?? []
}

/** The same, and the sensors of the inventory with the SI unit of what they read; null for a kind of their own. */
export async function gaugesOf(db: Db, testId: number) {
  await assertTest(db, testId)
  const main = await mainRecord(db, testId)
  const records = main ? await recordsTogether(db, main.id) : []
  return {
    roles: await rolesToGive(db, testId),
    channels: (await usedChannels(db, testId)).map(c => ({
      id: c.id,
      role: c.role,
      name: c.name,
      used: c.used,
      sensorId: c.sensorId,
      unit: c.unit,
      expression: c.expression,
      said: saidOf(
        c,
        records.find(d => d.id === c.datasetId),
      ),
    })),
    sensors: (await listSensors(db)).map(({ id, name, kind }) => ({
      id,
      name,
      unit: kind in KINDS ? siUnit(kind as Kind) : null,
    })),
  }
}

/** Says after the fact which sensor read a channel; results that rest on it are taken anew from then on. */
export function nameGauge(
  database: Database,
  by: string,
  testId: number,
  { role, sensorId }: { role: string; sensorId: number | null },
) {
  return database.write(async db => {
    const found = (await usedChannels(db, testId)).find(c => c.role === role && c.expression === null)
    if (!found) throw new HypometError('unknown-channel', `The record has no channel “${role}”.`, { path: 'role' })
    if (sensorId !== null && !(await listSensors(db)).some(s => s.id === sensorId)) throw notFound('sensor', sensorId)
    await db.update(channel).set({ sensorId }).where(eq(channel.id, found.id))
    await audit(db, {
      who: by,
      what: 'names its sensor',
      entity: 'channel',
      entityId: found.id,
      before: { sensorId: found.sensorId },
      after: { sensorId },
    })
  })
}

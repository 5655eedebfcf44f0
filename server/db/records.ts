import { symbolsOf } from '@hypomet/core'
import { and, asc, eq, inArray, sql } from 'drizzle-orm'
import type { Db } from './client'
import { notFound } from './notFound'
import { converted } from './samples'
import { article, campaign, channel, chunk, dataset, revision, test } from './schema'

/** A dataset with its channels, what is wrong with them, and their extremes: all that a record's page lists. */
export async function recordPage(db: Db, datasetId: number) {
  const [data] = await db.select({ dataset, testId: test.id, testTitle: test.title, articleName: article.name, revision: revision.label, slug: campaign.slug, campaign: campaign.title, system: campaign.system })
    .from(dataset).innerJoin(test, eq(dataset.testId, test.id)).innerJoin(revision, eq(test.revisionId, revision.id)).innerJoin(article, eq(revision.articleId, article.id)).innerJoin(campaign, eq(article.campaignId, campaign.id))
    .where(and(eq(dataset.id, datasetId), eq(dataset.status, 'ready')))
  if (!data) throw notFound('record', datasetId)
  const rows = await db.select({ id: channel.id, role: channel.role, name: channel.name, used: channel.used, unit: channel.unit, conversion: channel.conversion, expression: channel.expression, health: channel.health, min: sql<number | null>`min(${chunk.min})`, max: sql<number | null>`max(${chunk.max})`, gaps: sql<number>`sum(${chunk.gaps})` })
    .from(channel).leftJoin(chunk, eq(chunk.channelId, channel.id)).where(eq(channel.datasetId, datasetId)).groupBy(channel.id).orderBy(asc(channel.id))
  const symbols = symbolsOf(rows.map(r => r.role))
  const channels = rows.map(({ conversion, min, max, ...c }, i) => {
    const [a, b] = [min, max].map(v => (v === null ? null : converted(Float64Array.of(v), conversion)[0]!)) as [number | null, number | null]
    // Strain is a plain ratio; that it was written in millionths says what it is.
    const isStrain = c.unit === '1' && conversion !== null && conversion.multiply / conversion.divide === 1e-6
    return { ...c, symbol: symbols[i]!, isStrain, min: a !== null && b !== null ? Math.min(a, b) : a, max: a !== null && b !== null ? Math.max(a, b) : b }
  })
  const time = channels.find(c => c.role === 't')!
  const { importState: _, channelMap: __, ...kept } = data.dataset
  return { ...data, dataset: kept, from: time.min ?? 0, to: time.max ?? 0, channels: channels.filter(c => c !== time) }
}

/** Roles of channels by their ids, in the order asked. */
export async function rolesOf(db: Db, datasetId: number, ids: number[]): Promise<string[]> {
  const rows = await db.select({ id: channel.id, role: channel.role }).from(channel).where(and(eq(channel.datasetId, datasetId), inArray(channel.id, ids)))
  return ids.map(id => {
    const row = rows.find(r => r.id === id)
    if (!row) throw notFound('channel', id)
    return row.role
  })
}

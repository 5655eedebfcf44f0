import { HypometError, predictedValue, predictionRegister } from '@hypomet/core'
import { and, eq, getTableColumns, inArray, isNull, ne } from 'drizzle-orm'
import { manyRows } from '../connection/manyRows'
import { article, prediction, revision } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

/**
 * Predictions that people enter or accept; what a lock copied to a test, and what the plan calculated, is not among
 * them.
 */
export const predictions: RegisterRepository = {
  register: predictionRegister,
  table: prediction,
  campaignOf: async (db, stored) =>
    (
      await db
        .select({ id: article.campaignId })
        .from(revision)
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(eq(revision.id, stored['revisionId'] as number))
    )[0]?.id ?? null,
  list: async (db, campaignId) => {
    const revisionIds = db
      .select({ id: revision.id })
      .from(revision)
      .innerJoin(article, eq(article.id, revision.articleId))
      .where(eq(article.campaignId, campaignId!))
    const entered = and(isNull(prediction.copyOfId), ne(prediction.method, 'calculation'))
    const rows = await manyRows(
      db,
      prediction,
      getTableColumns(prediction),
      and(inArray(prediction.revisionId, revisionIds), entered),
    )
    return storedRows(rows.sort((a, b) => a.revisionId - b.revisionId || a.id - b.id))
  },
  columns: (row, context) => {
    const is = predictedValue(row, context)
    return { ...row, value: is?.value ?? null, u: is?.u ?? null, k: 2, bound: 'exact' }
  },
  // What was computed or scaled has no entered form; it is shown in SI.
  row: stored => ({
    ...Object.fromEntries(predictionRegister.fields.map(f => [f.key, stored[f.key] ?? null])),
    entered: stored['entered'] ?? stored['value'],
    band:
      stored['band'] ??
      (stored['value'] ? Math.abs(((stored['u'] as number) * 2) / (stored['value'] as number)) : null),
  }),
  extras: (_, rows) =>
    Promise.resolve(
      Object.fromEntries(rows.map(r => [r.id, { lockedAt: r['lockedAt'], fixed: r['lockedAt'] !== null }])),
    ),
  assertOpen: (_, before) => {
    if (before['lockedAt'])
      throw new HypometError(
        'locked',
        'This prediction was locked by the first sample of the run: it stands as it was said.',
      )
    return Promise.resolve()
  },
}

import { HypometError, kindOfLimit, limitRegister, limitWall } from '@hypomet/core'
import { eq, getTableColumns, inArray } from 'drizzle-orm'
import { manyRows } from '../connection/manyRows'
import { action, article, judgement, limit } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

export const limits: RegisterRepository = {
  register: limitRegister,
  table: limit,
  campaignOf: async (db, stored) =>
    (
      await db
        .select({ id: article.campaignId })
        .from(article)
        .where(eq(article.id, stored['articleId'] as number))
    )[0]?.id ?? null,
  list: async (db, campaignId) => {
    const articleIds = db.select({ id: article.id }).from(article).where(eq(article.campaignId, campaignId!))
    const rows = await manyRows(db, limit, getTableColumns(limit), inArray(limit.articleId, articleIds))
    return storedRows(rows.sort((a, b) => a.articleId - b.articleId || a.id - b.id))
  },
  columns: (row, context) => {
    if (kindOfLimit(row, context) === null)
      throw new HypometError('unknown-result', 'This kind of test has no such result.', { path: 'quantity' })
    return { ...row, value: limitWall(row, context) }
  },
  async usedBy(db, id) {
    const judged = (await db.select({ testId: judgement.testId, verdicts: judgement.verdicts }).from(judgement)).filter(
      j => j.verdicts.some(v => v.limitId === id),
    )
    const asked = await db.select({ question: action.question }).from(action).where(eq(action.limitId, id))
    return [
      ...(judged.length > 0
        ? [`${judged.length === 1 ? 'a verdict rests' : `${judged.length} verdicts rest`} on it (withdraw it instead)`]
        : []),
      ...asked.map(a => `the action “${a.question}” is linked to it`),
    ]
  },
}

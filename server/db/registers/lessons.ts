import { firingRegister, HypometError, lessonRegister } from '@hypomet/core'
import { asc, count, eq, getTableColumns, inArray, isNotNull, and } from 'drizzle-orm'
import { refreshFirings, openPlans } from '../tests/firings'
import { article, firing, lesson, revision, run, test } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

export const lessons: RegisterRepository = {
  register: lessonRegister,
  table: lesson,
  campaignOf: () => Promise.resolve(null),
  list: async db => storedRows(await db.select().from(lesson).orderBy(asc(lesson.id))),
  columns: row => row,
  async extras(db, rows) {
    const counts = await db
      .select({ lessonId: firing.lessonId, answer: firing.answer, n: count() })
      .from(firing)
      .where(
        inArray(
          firing.lessonId,
          rows.map(r => r.id),
        ),
      )
      .groupBy(firing.lessonId, firing.answer)
    const of = (id: number, answer: string | null) => counts.find(c => c.lessonId === id && c.answer === answer)?.n ?? 0
    return Object.fromEntries(
      rows.map(r => [
        r.id,
        {
          fired: counts.filter(c => c.lessonId === r.id).reduce((s, c) => s + c.n, 0),
          applied: of(r.id, 'applied'),
          doesNotApply: of(r.id, 'does-not-apply'),
          riskAccepted: of(r.id, 'risk-accepted'),
          unanswered: of(r.id, null),
        },
      ]),
    )
  },
  usedBy: async (db, id) => {
    const answered = await db
      .select({ id: firing.id })
      .from(firing)
      .where(and(eq(firing.lessonId, id), isNotNull(firing.answer)))
    return answered.length > 0
      ? [`${answered.length === 1 ? 'an answer was' : `${answered.length} answers were`} given to it`]
      : []
  },
  clear: async (db, id) => void (await db.delete(firing).where(eq(firing.lessonId, id))),
  // A new or changed one is held against every open plan.
  async after(db, { after }) {
    if (after) for (const id of await openPlans(db)) await refreshFirings(db, id)
  },
}

export const firings: RegisterRepository = {
  register: firingRegister,
  table: firing,
  closed: true,
  campaignOf: async (db, stored) =>
    (
      await db
        .select({ id: article.campaignId })
        .from(test)
        .innerJoin(revision, eq(revision.id, test.revisionId))
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(eq(test.id, stored['testId'] as number))
    )[0]?.id ?? null,
  list: async (db, campaignId) =>
    storedRows(
      await db
        .select(getTableColumns(firing))
        .from(firing)
        .innerJoin(test, eq(test.id, firing.testId))
        .innerJoin(revision, eq(revision.id, test.revisionId))
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(eq(article.campaignId, campaignId!))
        .orderBy(asc(firing.id)),
    ),
  columns: row => row,
  async assertOpen(db, before) {
    if (
      (
        await db
          .select({ id: run.id })
          .from(run)
          .where(eq(run.testId, before['testId'] as number))
          .limit(1)
      ).length > 0
    )
      throw new HypometError('plan-fixed', 'This test has been run; what was answered before it stands.')
  },
  usedBy: () => Promise.resolve(['a firing is counted, not removed']),
  async after(db, { by, after }) {
    if (after)
      await db
        .update(firing)
        .set({ by: after['answer'] ? by : '', answeredAt: after['answer'] ? new Date().toISOString() : null })
        .where(eq(firing.id, after.id))
  },
}

import { firingReasons, outlineOf, type PlanTexts } from '@hypomet/core'
import { and, desc, eq, inArray, isNull, max, notInArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { TestSet, type Firing } from './testSet'
import { article, firing, judgement, lesson, revision, run, test } from '../schema'

/** Tests that have not been run: what lessons may still change. */
export async function openPlans(db: Db, articleId?: number): Promise<number[]> {
  const begun = (await db.selectDistinct({ id: run.testId }).from(run)).map(r => r.id)
  const rows = await db
    .select({ id: test.id })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(and(notInArray(test.id, begun), articleId === undefined ? undefined : eq(revision.articleId, articleId)))
  return rows.map(r => r.id)
}

/**
 * Holds every lesson against the plan of a test: new matches fire, unanswered ones that no longer match fall silent.
 */
export async function refreshFirings(db: Db, testId: number): Promise<void> {
  if (!(await openPlans(db)).includes(testId)) return
  const texts = await textsOf(db, testId)
  const there = await db.select().from(firing).where(eq(firing.testId, testId))
  for (const l of await db.select().from(lesson)) {
    const reasons = firingReasons(l, texts)
    const fired = there.find(f => f.lessonId === l.id)
    if (reasons && !fired)
      await db.insert(firing).values({ lessonId: l.id, testId, reasons, createdAt: new Date().toISOString() })
    else if (reasons && fired) await db.update(firing).set({ reasons }).where(eq(firing.id, fired.id))
    else if (fired) await db.delete(firing).where(and(eq(firing.id, fired.id), isNull(firing.answer)))
  }
}

async function textsOf(db: Db, testId: number): Promise<PlanTexts> {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  const [r] = await db.select().from(revision).where(eq(revision.id, t!.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  const labels = ((t!.plan?.['channels'] ?? []) as { label?: string }[]).map(c => c.label ?? '')
  const facts = r!.facts.map(f => `${f.name} ${typeof f.value === 'string' ? f.value : ''}`)
  return {
    family: t!.family,
    familyTitle: outlineOf(t!.family)?.title ?? t!.family,
    features: [...a!.features, ...facts],
    fixture: t!.fixture,
    method: t!.method,
    texts: [t!.title, t!.notes, t!.fixture, t!.method, a!.name, a!.note, r!.changed, ...labels, ...facts],
  }
}

/** Lessons that fired on a test's plan, unanswered ones first. */
export const firingsOf = async (db: Db, testId: number): Promise<Firing[]> =>
  (await new TestSet(db, { testId }).firings()).get(testId) ?? []

/** Where a lesson fired, newest first, how that was answered, and what ended the test. */
export async function firingsOfLesson(db: Db, lessonId: number) {
  const rows = await db
    .select({
      id: firing.id,
      testId: test.id,
      test: test.title,
      article: article.name,
      revision: revision.label,
      reasons: firing.reasons,
      answer: firing.answer,
      reason: firing.reason,
      by: firing.by,
      answeredAt: firing.answeredAt,
      createdAt: firing.createdAt,
    })
    .from(firing)
    .innerJoin(test, eq(test.id, firing.testId))
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(eq(firing.lessonId, lessonId))
    .orderBy(desc(firing.id))
  const newest = db
    .select({ id: max(judgement.id) })
    .from(judgement)
    .where(inArray(judgement.testId, [...new Set(rows.map(r => r.testId))]))
    .groupBy(judgement.testId)
  const judged = await db
    .select({ testId: judgement.testId, cause: judgement.cause })
    .from(judgement)
    .where(inArray(judgement.id, newest))
  const causes = new Map(judged.map(j => [j.testId, j.cause]))
  return rows.map(r => ({ ...r, cause: causes.get(r.testId) ?? null }))
}

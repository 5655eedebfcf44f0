import { parseSettings, planSchemaOf } from '@hypomet/core'
import { and, asc, desc, eq, isNull } from 'drizzle-orm'
import { record } from '../connection/audit'
import { decisionsOf, revisionAfter } from '../articles/changes'
import { firingsOf, refreshFirings } from './firings'
import { limitsOfTest, limitWords, standingVerdicts, supersededBy } from '../results/judgements'
import { writeRowsIn } from '../registers/book'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { readyItemsOf } from './readiness'
import { rehearsalsOf } from './rehearsals'
import {
  article,
  campaign,
  dataset,
  judgement,
  limit,
  prediction,
  reduction,
  revision,
  run,
  runEvent,
  test,
} from '../schema'
import { listSensors, plannedWith } from '../registers/inventory'
import { planViewOf } from './viewedPlan'
import { stageStates } from './stageStates'
import { planVersionsOf } from './plans'

const now = () => new Date().toISOString()

export interface NewTest {
  title: string
  plan: Record<string, unknown> | null
  fixture?: string
  method?: string
  notes?: string
  plannedOn?: string | null
  cost?: number | null
}

export function createTest(database: Database, by: string, revisionId: number, { plan, ...head }: NewTest) {
  return database.write(async db => {
    const [found] = await db
      .select({ family: article.family, campaignId: article.campaignId })
      .from(revision)
      .innerJoin(article, eq(article.id, revision.articleId))
      .where(eq(revision.id, revisionId))
    if (!found) throw notFound('revision', revisionId)
    const { ids, step } = await writeRowsIn(db, by, 'test', {
      campaignId: found.campaignId,
      creates: [{ ...head, revisionId }],
      changes: [],
      removes: [],
    })
    const id = ids[0]!
    if (plan) {
      parseSettings(planSchemaOf(found.family), plan, 'plan')
      await db.update(test).set({ plan }).where(eq(test.id, id))
      await record(db, { who: by, what: 'plan', entity: 'test', entityId: id, after: plan })
      await refreshFirings(db, id)
    }
    return { id, step }
  })
}

/**
 * Locks what was predicted, at the first sample: what was said of the revision is written down for this test, and the
 * plan's own calculation joins it. Later calls change nothing.
 */
export async function lockPredictions(db: Db, testId: number): Promise<void> {
  const existing = await db.select().from(prediction).where(eq(prediction.testId, testId))
  if (existing.some(p => p.lockedAt)) return
  const [t] = await db.select({ revisionId: test.revisionId }).from(test).where(eq(test.id, testId))
  const { revisionId } = t!
  const ofRevision = await db
    .select()
    .from(prediction)
    .where(and(eq(prediction.revisionId, revisionId), isNull(prediction.testId)))
  const view = await planViewOf(db, testId)
  const lockedAt = now()
  const copies = ofRevision.map(({ id, ...p }) => ({ ...p, testId, copyOfId: id, createdAt: lockedAt }))
  const calculated = (view?.predictions ?? []).map(p => ({
    revisionId,
    testId,
    ...p,
    bound: 'exact' as const,
    method: 'calculation',
    source: CALCULATION,
    createdAt: lockedAt,
  }))
  const curves = Object.entries(view?.curves ?? {}).map(([quantity, curve]) => ({
    revisionId,
    testId,
    quantity,
    curve,
    bound: 'exact' as const,
    method: 'calculation',
    source: CALCULATION,
    createdAt: lockedAt,
  }))
  if (curves.length > 0) await db.insert(prediction).values(curves)
  if (copies.length > 0) await db.insert(prediction).values(copies)
  if (calculated.length > 0) await db.insert(prediction).values(calculated)
  await db.update(prediction).set({ lockedAt }).where(eq(prediction.testId, testId))
  await db
    .update(prediction)
    .set({ lockedAt })
    .where(and(eq(prediction.revisionId, revisionId), isNull(prediction.testId), isNull(prediction.lockedAt)))
}

/** What is expected of a test: until its first sample also what is said of its revision, from then on what was locked. */
export async function predictionsOf(db: Db, testId: number, revisionId: number): Promise<StoredPrediction[]> {
  const own = await db.select().from(prediction).where(eq(prediction.testId, testId)).orderBy(asc(prediction.id))
  if (own.some(p => p.lockedAt)) return own
  return [
    ...(await db
      .select()
      .from(prediction)
      .where(and(eq(prediction.revisionId, revisionId), isNull(prediction.testId)))
      .orderBy(asc(prediction.id))),
    ...own,
  ]
}

export const CALCULATION = 'beam calculation'

export type StoredPrediction = typeof prediction.$inferSelect

/** All that the six stages of a test show. */
export async function testPage({ read: db }: Database, testId: number) {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  const [r] = await db.select().from(revision).where(eq(revision.id, t.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  const [c] = await db.select().from(campaign).where(eq(campaign.id, a!.campaignId))
  const revisions = await db.select().from(revision).where(eq(revision.articleId, a!.id)).orderBy(asc(revision.id))
  const runs = await db.select().from(run).where(eq(run.testId, testId)).orderBy(desc(run.id))
  const view = await planViewOf(db, testId)
  const predicted = await predictionsOf(db, testId, r!.id)
  const next = await revisionAfter(db, testId)
  const [judged] = await db
    .select()
    .from(judgement)
    .where(eq(judgement.testId, testId))
    .orderBy(desc(judgement.id))
    .limit(1)
  const reductions = await db
    .select()
    .from(reduction)
    .where(eq(reduction.testId, testId))
    .orderBy(desc(reduction.id))
    .limit(2)
  const [latest] = reductions
  const show = limitWords(t.family, c!.system)
  const nextTests = next ? await db.select({ id: test.id }).from(test).where(eq(test.revisionId, next.id)).limit(1) : []
  return {
    test: t,
    revision: r!,
    article: a!,
    campaign: c!,
    revisions,
    view,
    limits: await limitsOfTest(db, testId),
    firings: await firingsOf(db, testId),
    sensors: await listSensors(db),
    versions: await planVersionsOf(db, testId),
    rehearsals: await rehearsalsOf(db, testId),
    /** Other tests that plan with a sensor and have not been run. */
    elsewhere: Object.fromEntries(
      Object.entries(await plannedWith(db)).map(([id, uses]) => [id, uses.filter(u => u.testId !== testId)]),
    ),
    ready: await readyItemsOf(db, testId, now().slice(0, 10)),
    stages: await stageStates(db, testId),
    predictions: predicted.flatMap(p => (p.value === null ? [] : [{ ...p, value: p.value, u: p.u ?? 0 }])),
    curves: predicted.flatMap(p => (p.curve === null ? [] : [{ ...p, curve: p.curve }])),
    datasets: (
      await db
        .select()
        .from(dataset)
        .where(and(eq(dataset.testId, testId), eq(dataset.status, 'ready')))
        .orderBy(desc(dataset.id))
    )
      .map(({ importState: _, ...d }) => d)
      .toSorted((a, b) => Number(a.joinsId !== null) - Number(b.joinsId !== null)),
    runs: await Promise.all(
      runs.map(async x => ({
        ...x,
        rigState: null,
        events: await db.select().from(runEvent).where(eq(runEvent.runId, x.id)).orderBy(asc(runEvent.id)),
      })),
    ),
    reductions,
    judgement: judged
      ? {
          ...judged,
          verdicts: standingVerdicts(
            judged.verdicts,
            await db.select().from(limit).where(eq(limit.articleId, a!.id)),
            show,
          ),
          superseded:
            latest && latest.id !== judged.reductionId
              ? await supersededBy(db, judged.reductionId, latest, show)
              : null,
        }
      : null,
    decisions: await decisionsOf(db, testId),
    next: next ? { id: next.id, label: next.label, testId: nextTests[0]?.id ?? null } : null,
  }
}

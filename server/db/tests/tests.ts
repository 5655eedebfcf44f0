import {
  families,
  limitsOfRevision,
  preferenceOf,
  speaksOf,
  parseSettings,
  planSchemaOf,
  localDay,
} from '@hypomet/core'
import { and, asc, desc, eq, inArray, isNotNull, isNull, ne } from 'drizzle-orm'
import { audit } from '../connection/audit'
import { decisionsOf } from '../articles/changes'
import { refreshFirings } from './firings'
import { limitWords, currentVerdicts, supersededBy } from '../results/judgements'
import { writeRowsIn } from '../registers/service'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { readyItemsOf } from './readiness'
import { rehearsalsOf } from './rehearsals'
import { article, prediction, revision, runEvent, test } from '../schema'
import { plannedWith } from '../registers/inventory'
import { planViewOf, viewedPlanOf } from './viewedPlan'
import { followersOf, stagesOf } from './stageStates'
import { grouped, TestSet } from './testSet'
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
      await audit(db, { who: by, what: 'plan', entity: 'test', entityId: id, after: plan })
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
    source: view?.predictedBy ?? '',
    createdAt: lockedAt,
  }))
  const curves = Object.entries(view?.curves ?? {}).map(([quantity, curve]) => ({
    revisionId,
    testId,
    quantity,
    curve,
    bound: 'exact' as const,
    method: 'calculation',
    source: view?.predictedBy ?? '',
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

/**
 * What is expected of a test: until its first sample also what is said of its revision, from then on what was locked.
 */
export const predictionsOf = async (db: Db, testId: number): Promise<StoredPrediction[]> =>
  predictedIn(testId, await new TestSet(db, { testId }).predictions())

function predictedIn(testId: number, ofRevision: readonly StoredPrediction[]): StoredPrediction[] {
  const own = ofRevision.filter(p => p.testId === testId)
  return own.some(p => p.lockedAt) ? own : [...ofRevision.filter(p => p.testId === null), ...own]
}

export type StoredPrediction = typeof prediction.$inferSelect

/** All that the six stages of a test show; figures of its reductions are asked for when they are seen. */
export async function testPage({ read: db }: Database, testId: number) {
  const set = new TestSet(db, { testId })
  const t = (await set.tests()).get(testId)
  if (!t) throw notFound('test', testId)
  const revisions = [...(await set.revisions()).values()]
  const r = revisions.find(x => x.id === t.revisionId)!
  const a = (await set.articles()).get(r.articleId)!
  const c = (await set.campaigns()).get(a.campaignId)!
  const predicted = predictedIn(testId, await set.predictions())
  const settings = (await set.reduced()).get(testId)?.settings
  const isSpokenOf = (p: StoredPrediction) => !settings || speaksOf(p.config, families[t.family] ?? {}, settings)
  const next = (await followersOf(set)).get(testId)
  const nextTests = next ? await db.select({ id: test.id }).from(test).where(eq(test.revisionId, next.id)).limit(1) : []
  const limits = await set.limits()
  const planned = await plannedWith(db)
  return {
    test: t,
    revision: r,
    article: a,
    campaign: c,
    revisions,
    view: (await viewedPlanOf(db, testId, set))?.view ?? null,
    limits: limitsOfRevision(r.id, revisions, limits),
    firings: (await set.firings()).get(testId) ?? [],
    sensors: await set.sensors(),
    versions: await planVersionsOf(db, testId),
    rehearsals: await rehearsalsOf(db, testId),
    /** Other tests that plan with a sensor and have not been run. */
    elsewhere: Object.fromEntries(
      Object.entries(planned).map(([id, uses]) => [id, uses.filter(u => u.testId !== testId)]),
    ),
    ready: await readyItemsOf(db, testId, localDay(), set),
    stages: (await stagesOf(set)).get(testId)!,
    predictions: predicted.flatMap(p =>
      p.value === null ? [] : [{ ...p, value: p.value, u: p.u ?? 0, isOfAnother: !isSpokenOf(p) }],
    ),
    curves: predicted.flatMap(p => (p.curve === null ? [] : [{ ...p, curve: p.curve }])),
    datasets: (await set.datasets())
      .toReversed()
      .toSorted((x, y) => Number(x.joinsId !== null) - Number(y.joinsId !== null)),
    runs: await runsWithEvents(set, testId),
    reductions: (await set.reductions()).slice(0, 2),
    judgement: await judgementOf(set, testId, limitWords(t.family, preferenceOf(c), a.own)),
    decisions: await decisionsOf(db, testId),
    last: t.planText === null ? await lastPlanOf(db, t) : null,
    next: next ? { id: next.id, label: next.label, testId: nextTests[0]?.id ?? null } : null,
  }
}

/** How the article was tested last, for a plan that is to begin from it: what has been run comes before drafts. */
async function lastPlanOf(db: Db, { id, revisionId, family }: { id: number; revisionId: number; family: string }) {
  const [own] = await db.select({ articleId: revision.articleId }).from(revision).where(eq(revision.id, revisionId))
  const [last] = await db
    .select({ title: test.title, plan: test.plan, label: revision.label, facts: revision.facts })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(and(eq(revision.articleId, own!.articleId), eq(test.family, family), ne(test.id, id), isNotNull(test.plan)))
    .orderBy(desc(eq(test.planState, 'released')), desc(test.id))
    .limit(1)
  return last ? { ...last, plan: last.plan! } : null
}

/** Newest first. */
async function runsWithEvents(set: TestSet, testId: number) {
  const runs = (await set.runs()).get(testId) ?? []
  const rows = await set.db
    .select()
    .from(runEvent)
    .where(
      inArray(
        runEvent.runId,
        runs.map(r => r.id),
      ),
    )
    .orderBy(asc(runEvent.id))
  const events = grouped(rows, e => e.runId)
  return runs.toReversed().map(r => ({ ...r, events: events.get(r.id) ?? [] }))
}

/** The newest judgement, with which of its verdicts still stand, and what a newer reduction changed. */
async function judgementOf(set: TestSet, testId: number, show: ReturnType<typeof limitWords>) {
  const judged = (await set.judged()).get(testId)
  if (!judged) return null
  const limits = new Map((await set.limits()).map(l => [l.id, l]))
  const reductions = await set.reductions()
  const [latest] = reductions
  const before = reductions.find(r => r.id === judged.reductionId)
  return {
    ...judged,
    verdicts: currentVerdicts(judged.verdicts, limits, show),
    superseded: latest && before && latest.id !== before.id ? supersededBy(before, latest, show) : null,
  }
}

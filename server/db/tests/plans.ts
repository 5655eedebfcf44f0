import {
  HypometError,
  parseSettings,
  planningOf,
  planWithFacts,
  planSchemaOf,
  sensorClashes,
  type Finding,
  type Plan,
} from '@hypomet/core'
import { asc, desc, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { refreshFirings } from './firings'
import { notFound } from '../connection/notFound'
import { clearSignatures } from './readiness'
import { article, campaign, planVersion, revision, run, test } from '../schema'
import { listSensors, plannedWith } from '../registers/inventory'
import { viewedPlanOf } from './viewedPlan'

type TestRow = typeof test.$inferSelect

async function testOf(db: Db, testId: number): Promise<TestRow> {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  return t
}

/** What has been run is not planned anew. */
async function assertNotRun(db: Db, testId: number): Promise<void> {
  if ((await db.select({ id: run.id }).from(run).where(eq(run.testId, testId)).limit(1)).length > 0)
    throw new HypometError('plan-fixed', 'This test has been run; its plan stands as it was.')
}

/**
 * Saves a draft. Of two people who save the same one, the later is told.
 *
 * @param edit  the count that the draft was opened with; null to save whatever is there
 * @throws HypometError `plan-fixed`, `plan-released`, `changed-meanwhile`
 */
export function savePlan(
  database: Database,
  by: string,
  testId: number,
  plan: Record<string, unknown>,
  edit: number | null = null,
) {
  return database.write(async db => {
    const t = await testOf(db, testId)
    await assertNotRun(db, testId)
    if (t.planState === 'released')
      throw new HypometError(
        'plan-released',
        `Version ${t.planNumber} of this plan is released; begin a new version to change it.`,
      )
    if (edit !== null && edit !== t.planEdit)
      throw new HypometError(
        'changed-meanwhile',
        'Somebody else has changed this plan since you opened it. Look at theirs first.',
      )
    parseSettings(planSchemaOf(t.family), plan, 'plan')
    await db
      .update(test)
      .set({ plan, planEdit: t.planEdit + 1 })
      .where(eq(test.id, testId))
    await audit(db, { who: by, what: 'plan', entity: 'test', entityId: testId, before: t.plan, after: plan })
    await refreshFirings(db, testId)
    return { edit: t.planEdit + 1 }
  })
}

/**
 * Releases the plan as it stands: it is kept as a version, and from then on changes only by a new one.
 *
 * @throws HypometError `no-plan`, `plan-released`, `not-releasable` at the finding's place
 */
export function releasePlan(database: Database, by: string, testId: number, edit: number | null = null) {
  return database.write(async db => {
    const t = await testOf(db, testId)
    await assertNotRun(db, testId)
    if (t.planState === 'released')
      throw new HypometError('plan-released', `Version ${t.planNumber} is released already.`)
    if (edit !== null && edit !== t.planEdit)
      throw new HypometError(
        'changed-meanwhile',
        'Somebody else has changed this plan since you opened it. Look at theirs first.',
      )
    const viewed = await viewedPlanOf(db, testId)
    if (!viewed || !t.plan) throw new HypometError('no-plan', 'There is no plan that holds together yet.')
    const stop = viewed.view.findings.find(f => f.severity === 'stop') ?? (await sensorElsewhere(db, t, viewed.plan))
    if (stop) throw new HypometError('not-releasable', `${stop.message} ${stop.mend}`, { path: stop.path })
    const [r] = await db.select({ facts: revision.facts }).from(revision).where(eq(revision.id, t.revisionId))
    // From now on it says by itself what the article said at this hour.
    const plan = planWithFacts(t.family, t.plan, r!.facts).plan as Record<string, unknown>
    const made = {
      testId,
      number: t.planNumber,
      plan,
      reason: t.planReason,
      findings: viewed.view.findings,
      by,
      at: new Date().toISOString(),
    }
    await db.insert(planVersion).values(made)
    await db.update(test).set({ plan, planState: 'released' }).where(eq(test.id, testId))
    await audit(db, {
      who: by,
      what: 'release plan',
      entity: 'test',
      entityId: testId,
      after: { number: made.number, reason: made.reason },
    })
    return { number: made.number }
  })
}

/** A sensor that another plan has on the same day. */
async function sensorElsewhere(db: Db, t: TestRow, plan: Plan): Promise<Finding | undefined> {
  if (t.plannedOn === null) return undefined
  const uses = await plannedWith(db)
  const names = new Map((await listSensors(db)).map(s => [s.id, s.name]))
  return sensorClashes(
    plan.channels,
    { testId: t.id, plannedOn: t.plannedOn },
    uses,
    id => names.get(id) ?? 'This sensor',
  )[0]
}

/** Begins a new version of a released plan, with the reason. Signatures of the checklist are asked for again. */
export function beginPlanVersion(database: Database, by: string, testId: number, reason: string) {
  return database.write(async db => {
    const t = await testOf(db, testId)
    await assertNotRun(db, testId)
    if (t.planState !== 'released') throw new HypometError('not-released', 'This plan is a draft: change it as it is.')
    if (reason.trim() === '')
      throw new HypometError('missing-reason', 'A new version needs a reason.', { path: 'reason' })
    await db
      .update(test)
      .set({ planState: 'draft', planNumber: t.planNumber + 1, planReason: reason.trim() })
      .where(eq(test.id, testId))
    await clearSignatures(db, testId)
    await audit(db, {
      who: by,
      what: 'new plan version',
      entity: 'test',
      entityId: testId,
      before: { number: t.planNumber },
      after: { number: t.planNumber + 1, reason },
    })
    return { number: t.planNumber + 1 }
  })
}

/** Released versions, newest first, without their plans. */
export const planVersionsOf = async (db: Db, testId: number) =>
  (await db.select().from(planVersion).where(eq(planVersion.testId, testId)).orderBy(desc(planVersion.number))).map(
    ({ plan: _, ...v }) => v,
  )

export async function planVersionOf(db: Db, testId: number, number: number) {
  const found = (await db.select().from(planVersion).where(eq(planVersion.testId, testId))).find(
    v => v.number === number,
  )
  if (!found) throw notFound('plan version', number)
  return found
}

/** Plans of other tests that one of this kind may start from: those of tests that are loaded in a way it knows. */
export async function plansToStartFrom(db: Db, testId: number) {
  const t = await testOf(db, testId)
  const ways = planningOf(t.family).loadings as readonly string[]
  const rows = await db
    .select({
      id: test.id,
      title: test.title,
      family: test.family,
      plan: test.plan,
      state: test.planState,
      number: test.planNumber,
      label: revision.label,
      article: article.name,
      campaign: campaign.title,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .orderBy(asc(test.id))
  const loadingOf = (plan: Record<string, unknown>) => (plan['loading'] as { kind?: string } | undefined)?.kind ?? ''
  return rows.flatMap(r =>
    r.id !== testId && r.family === t.family && r.plan && ways.includes(loadingOf(r.plan))
      ? [{ ...r, plan: r.plan, loading: loadingOf(r.plan) }]
      : [],
  )
}

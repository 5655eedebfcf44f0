import { randomUUID } from 'node:crypto'
import {
  campaignMoney,
  limitsOfRevision,
  outlineOf,
  type QuantityInput,
  type ResultDeclaration,
  type Row,
  type ScheduleFrame,
} from '@hypomet/core'
import { and, asc, eq, inArray, isNull } from 'drizzle-orm'
import { record } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { standingVerdicts } from '../results/judgements'
import { standingResults } from '../results/standing'
import { notFound } from '../connection/notFound'
import { writeRowsIn } from '../registers/book'
import {
  action,
  article,
  attachment,
  campaign,
  constant,
  firing,
  limit,
  prediction,
  reduction,
  revision,
  run,
  task,
  test,
} from '../schema'
import { commonOf, type Common } from '../tests/viewedPlan'
import { stageStates } from '../tests/stageStates'

const now = () => new Date().toISOString()

export interface NewCampaign {
  title: string
  purpose: string
  due: string | null
  system: 'metric' | 'imperial'
  rule: 'guarded' | 'simple'
  convention: 'margin-of-safety' | 'reserve-factor' | 'factor-of-safety'
  budget?: number | null
  currency?: string
}

export function createCampaign(database: Database, by: string, input: NewCampaign) {
  return database.write(async db => {
    const taken = new Set((await db.select({ slug: campaign.slug }).from(campaign)).map(c => c.slug))
    const base =
      input.title
        .toLowerCase()
        .normalize('NFKD')
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'campaign'
    let slug = base
    for (let n = 2; taken.has(slug); n++) slug = `${base}-${n}`
    const [made] = await db
      .insert(campaign)
      .values({ ...input, slug, createdAt: now() })
      .returning()
    const step = randomUUID()
    await record(db, { who: by, what: 'create', entity: 'campaign', entityId: made!.id, after: made, step })
    return { ...made!, step }
  })
}

export interface NewRevision {
  label: string
  changed?: string
  why?: string
  mass?: QuantityInput | null
  properties?: Record<string, unknown>
  facts?: unknown[]
  constants?: Record<string, number>
  parentId?: number | null
}

/** An article with its first revision, made and undone together. */
export function createArticle(
  database: Database,
  by: string,
  campaignId: number,
  { revision: first, ...input }: Row & { revision: NewRevision },
) {
  return database.write(async db => {
    const step = randomUUID()
    const {
      ids: [articleId],
    } = await writeRowsIn(db, by, 'article', { campaignId, creates: [input], changes: [], removes: [] }, step)
    const {
      ids: [revisionId],
    } = await writeRowsIn(
      db,
      by,
      'revision',
      { campaignId, creates: [{ ...first, articleId }], changes: [], removes: [] },
      step,
    )
    return { id: articleId!, revision: { id: revisionId! }, step }
  })
}

export async function listCampaigns({ read }: Database) {
  const campaigns = await read.select().from(campaign).orderBy(asc(campaign.id))
  return Promise.all(campaigns.map(async c => ({ ...c, articles: await articlesOf(read, c.id) })))
}

export async function campaignBySlug(db: Db, slug: string) {
  const [found] = await db.select().from(campaign).where(eq(campaign.slug, slug))
  if (!found) throw notFound('campaign', slug)
  return found
}

export async function campaignPage({ read }: Database, slug: string) {
  const found = await campaignBySlug(read, slug)
  const actions = await read.select().from(action).where(eq(action.campaignId, found.id)).orderBy(asc(action.due))
  const articles = await articlesOf(read, found.id)
  const tests = articles.flatMap(a =>
    a.revisions.flatMap(r => r.tests.map(t => ({ id: t.id, cost: t.cost, ran: t.ranOn !== null }))),
  )
  const tasks = await read
    .select({ testId: task.testId, cost: task.cost })
    .from(task)
    .where(eq(task.campaignId, found.id))
  return {
    ...found,
    frame: scheduleFrame(found),
    money: campaignMoney(tests, tasks, found.budget),
    articles,
    actions: actions.filter(a => a.answer === ''),
    constants: (await read.select({ id: constant.id }).from(constant).where(eq(constant.campaignId, found.id))).length,
  }
}

export async function articlePage({ read }: Database, id: number) {
  const [a] = await read.select().from(article).where(eq(article.id, id))
  if (!a) throw notFound('article', id)
  const [c] = await read.select().from(campaign).where(eq(campaign.id, a.campaignId))
  const articles = await articlesOf(read, c!.id)
  const constants = await read
    .select()
    .from(constant)
    .where(eq(constant.campaignId, c!.id))
    .orderBy(asc(constant.subject), asc(constant.property))
  return { campaign: c!, article: articles.find(x => x.id === id)!, constants }
}

/** Articles with revisions, tests, stage states and the standing verdicts: what the thread and the matrix show. */
async function articlesOf(db: Db, campaignId: number) {
  const common = await commonOf(db)
  const articles = await db.select().from(article).where(eq(article.campaignId, campaignId)).orderBy(asc(article.id))
  return Promise.all(
    articles.map(async a => {
      const revisions = await db.select().from(revision).where(eq(revision.articleId, a.id)).orderBy(asc(revision.id))
      const tests =
        revisions.length === 0
          ? []
          : await db
              .select()
              .from(test)
              .where(
                inArray(
                  test.revisionId,
                  revisions.map(r => r.id),
                ),
              )
              .orderBy(asc(test.id))
      const limits = await db.select().from(limit).where(eq(limit.articleId, a.id)).orderBy(asc(limit.id))
      const outline = outlineOf(a.family)
      return {
        ...a,
        familyTitle: outline?.title ?? a.family,
        resultTypes: (outline?.results ?? {}) as Record<string, ResultDeclaration>,
        limits: limits.filter(l => l.state === 'in-force'),
        withdrawn: limits.filter(l => l.state === 'withdrawn').length,
        photo:
          (
            await db
              .select({ id: attachment.id, removedAt: attachment.removedAt, mime: attachment.mime })
              .from(attachment)
              .where(and(eq(attachment.entity, 'article'), eq(attachment.entityId, a.id)))
          ).find(f => f.removedAt === null && f.mime.startsWith('image/'))?.id ?? null,
        revisions: await Promise.all(
          revisions.map(async r => ({
            ...r,
            predictions: await expectedOf(db, r.id),
            finding: await findingOf(db, r.findingReductionId),
            limitIds: limitsOfRevision(r.id, revisions, limits).map(l => l.id),
            tests: await Promise.all(
              tests.filter(t => t.revisionId === r.id).map(t => testSummary(db, t, limits, common)),
            ),
          })),
        ),
      }
    }),
  )
}

/** What is expected of a revision, whoever said it. */
const expectedOf = (db: Db, revisionId: number) =>
  db
    .select({
      id: prediction.id,
      testId: prediction.testId,
      quantity: prediction.quantity,
      value: prediction.value,
      u: prediction.u,
      k: prediction.k,
      bound: prediction.bound,
      source: prediction.source,
      method: prediction.method,
      lockedAt: prediction.lockedAt,
      curve: prediction.curve,
      place: prediction.place,
      mode: prediction.mode,
    })
    .from(prediction)
    .where(and(eq(prediction.revisionId, revisionId), isNull(prediction.copyOfId)))
    .orderBy(asc(prediction.id))

/** The test on whose results a revision was decided. */
async function findingOf(db: Db, reductionId: number | null) {
  if (reductionId === null) return null
  const [found] = await db
    .select({ testId: test.id, title: test.title, label: revision.label })
    .from(reduction)
    .innerJoin(test, eq(test.id, reduction.testId))
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(eq(reduction.id, reductionId))
  return found ?? null
}

async function testSummary(db: Db, t: typeof test.$inferSelect, limits: (typeof limit.$inferSelect)[], common: Common) {
  const standing = await standingResults(db, t.id)
  const judged = standing?.judgement ?? null
  const current = judged && judged.reductionId === standing!.reduction.id ? judged : null
  const verdicts = standingVerdicts(current?.verdicts ?? [], limits)
  const unanswered = (await db.select({ answer: firing.answer }).from(firing).where(eq(firing.testId, t.id))).filter(
    f => f.answer === null,
  ).length
  return {
    id: t.id,
    title: t.title,
    fixture: t.fixture,
    plannedOn: t.plannedOn,
    cost: t.cost,
    results: standing?.results ?? null,
    judgedAt: current?.createdAt ?? null,
    ranOn:
      (await db.select({ at: run.startedAt }).from(run).where(eq(run.testId, t.id)).orderBy(asc(run.id)).limit(1))[0]
        ?.at ?? null,
    verdicts: verdicts.filter(v => v.stands),
    reopened: verdicts.filter(v => !v.stands).map(v => v.limitId),
    unanswered,
    cause: current?.cause ?? null,
    stages: await stageStates(db, t.id, common),
  }
}

/** The calendar that a campaign's tasks are placed in. */
export const scheduleFrame = (c: typeof campaign.$inferSelect): ScheduleFrame => ({
  start: c.startsOn ?? c.createdAt.slice(0, 10),
  due: c.due,
  funds: c.budget,
  workdays: [...c.workdays].map(Number),
  holidays: c.holidays,
})

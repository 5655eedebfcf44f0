import { randomUUID } from 'node:crypto'
import {
  campaignMoney,
  coveredBy,
  limitsOfRevision,
  outlineOf,
  resultsOf,
  type QuantityInput,
  type Row,
  type ScheduleFrame,
  localDay,
} from '@hypomet/core'
import { asc, count, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import type { RowsNow } from '../connection/keptRows'
import { currentVerdicts } from '../results/judgements'
import { currentResultsOf } from '../results/currentResults'
import { notFound } from '../connection/notFound'
import { writeRowsIn } from '../registers/service'
import { action, campaign, constant, task } from '../schema'
import { keepPlanDigests } from '../tests/planDigest'
import { stagesOf } from '../tests/stageStates'
import { grouped, TestSet } from '../tests/testSet'

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
    await audit(db, { who: by, what: 'create', entity: 'campaign', entityId: made!.id, after: made, step })
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

/** All campaigns with their articles, for the bench and whoever asks over HTTP. */
export const listCampaigns = (database: Database) =>
  database.kept(`campaigns ${localDay()}`, rows => campaignsNow(database, rows))

async function campaignsNow(database: Database, rows: RowsNow) {
  const set = new TestSet(database.read, 'all', rows)
  const articles = await articlesOf(set)
  keepPlanDigests(database)
  return [...(await set.campaigns()).values()].map(c => ({
    ...c,
    articles: articles.filter(a => a.campaignId === c.id),
  }))
}

export async function campaignBySlug(db: Db, slug: string) {
  const [found] = await db.select().from(campaign).where(eq(campaign.slug, slug))
  if (!found) throw notFound('campaign', slug)
  return found
}

export const campaignPage = (database: Database, slug: string) =>
  database.kept(`campaign ${localDay()} ${slug}`, rows => campaignNow(database, rows, slug))

async function campaignNow(database: Database, rows: RowsNow, slug: string) {
  const { read } = database
  const found = await campaignBySlug(read, slug)
  const actions = await read.select().from(action).where(eq(action.campaignId, found.id)).orderBy(asc(action.due))
  const articles = await articlesOf(new TestSet(read, { campaignId: found.id }, rows))
  keepPlanDigests(database)
  const tests = articles.flatMap(a =>
    a.revisions.flatMap(r => r.tests.map(t => ({ id: t.id, cost: t.cost, ran: t.ranOn !== null }))),
  )
  const tasks = await read
    .select({ testId: task.testId, cost: task.cost })
    .from(task)
    .where(eq(task.campaignId, found.id))
  const [constants] = await read.select({ n: count() }).from(constant).where(eq(constant.campaignId, found.id))
  return {
    ...found,
    frame: scheduleFrame(found),
    money: campaignMoney(tests, tasks, found.budget),
    articles,
    actions: actions.filter(a => a.answer === ''),
    constants: constants!.n,
  }
}

export async function articlePage(database: Database, id: number) {
  const { read } = database
  const set = new TestSet(read, { articleId: id })
  const [found] = await articlesOf(set)
  if (!found) throw notFound('article', id)
  keepPlanDigests(database)
  const constants = await read
    .select()
    .from(constant)
    .where(eq(constant.campaignId, found.campaignId))
    .orderBy(asc(constant.subject), asc(constant.property))
  return { campaign: (await set.campaigns()).get(found.campaignId)!, article: found, constants }
}

/** Articles with revisions, tests, stage states and the standing verdicts: what the thread and the matrix show. */
export async function articlesOf(set: TestSet) {
  const limits = grouped(await set.limits(), l => l.articleId)
  const revisions = grouped([...(await set.revisions()).values()], r => r.articleId)
  const expected = grouped(await set.expected(), p => p.revisionId)
  const tests = grouped(await testSummaries(set), t => t.revisionId)
  const photos = await set.articlePhotos()
  const findings = await findingsOf(set)
  return [...(await set.articles()).values()].map(a => {
    const outline = outlineOf(a.family)
    const [own, all] = [revisions.get(a.id) ?? [], limits.get(a.id) ?? []]
    return {
      ...a,
      familyTitle: outline?.title ?? a.family,
      resultTypes: resultsOf(a.family, a.own),
      limits: all.filter(l => l.state === 'in-force'),
      withdrawn: all.filter(l => l.state === 'withdrawn').length,
      photo: photos.get(a.id) ?? null,
      revisions: own.map(r => ({
        ...r,
        predictions: expected.get(r.id) ?? [],
        finding: findings.get(r.findingReductionId ?? 0) ?? null,
        limitIds: limitsOfRevision(r.id, own, all).map(l => l.id),
        tests: merged(tests.get(r.id) ?? [], all),
      })),
    }
  })
}

/** Tests of one revision, each verdict with the test that says what it left open. */
function merged(tests: Summary[], limits: readonly { id: number; quantity: string }[]) {
  const standings = (limitId: number) =>
    tests.flatMap(t => {
      const v = t.verdicts.find(x => x.limitId === limitId)
      const quantity = limits.find(l => l.id === limitId)?.quantity ?? ''
      return v
        ? [{ testId: t.id, result: t.results?.[quantity] ?? null, verdict: v.verdict, validity: t.validity }]
        : []
    })
  return tests.map(t => ({
    ...t,
    verdicts: t.verdicts.map(v => {
      const all = standings(v.limitId)
      const by = coveredBy(
        all.find(s => s.testId === t.id)!,
        all,
      )
      const other = tests.find(o => o.id === by)
      return { ...v, coveredBy: other ? { id: other.id, title: other.title } : null }
    }),
  }))
}

/** The test on whose results a revision was decided, by reduction. */
async function findingsOf(set: TestSet) {
  const [tests, revisions] = [await set.tests(), await set.revisions()]
  return new Map(
    [...(await set.testOfReduction())].map(([reductionId, testId]) => {
      const t = tests.get(testId)!
      return [reductionId, { testId, title: t.title, label: revisions.get(t.revisionId)!.label }]
    }),
  )
}

type Summary = Awaited<ReturnType<typeof testSummaries>>[number]

async function testSummaries(set: TestSet) {
  const [standing, stages, runs, firings] = [
    await currentResultsOf(set),
    await stagesOf(set),
    await set.runs(),
    await set.firings(),
  ]
  const limits = new Map((await set.limits()).map(l => [l.id, l]))
  return [...(await set.tests()).values()].map(t => {
    const own = standing.get(t.id)
    const current = own?.judgement?.reductionId === own?.reduction.id ? (own?.judgement ?? null) : null
    const verdicts = currentVerdicts(current?.verdicts ?? [], limits)
    return {
      id: t.id,
      revisionId: t.revisionId,
      title: t.title,
      fixture: t.fixture,
      plannedOn: t.plannedOn,
      cost: t.cost,
      results: own?.results ?? null,
      judgedAt: current?.createdAt ?? null,
      ranOn: runs.get(t.id)?.[0]?.startedAt ?? null,
      verdicts: verdicts.filter(v => v.stands),
      reopened: verdicts.filter(v => !v.stands).map(v => v.limitId),
      unanswered: (firings.get(t.id) ?? []).filter(f => f.answer === null).length,
      cause: current?.cause ?? null,
      validity: current?.validity ?? null,
      stages: stages.get(t.id)!,
    }
  })
}

/** The calendar that a campaign's tasks are placed in. */
export const scheduleFrame = (c: typeof campaign.$inferSelect): ScheduleFrame => ({
  start: c.startsOn ?? localDay(c.createdAt),
  due: c.due,
  funds: c.budget,
  workdays: [...c.workdays].map(Number),
  holidays: c.holidays,
})

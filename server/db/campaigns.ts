import { HypometError, material, parseSettings, quantity, type QuantityInput, type ResultDeclaration } from '@hypomet/core'
import { and, asc, desc, eq, inArray } from 'drizzle-orm'
import { record } from './audit'
import type { Database, Db } from './client'
import { familyOf } from './families'
import { notFound } from './notFound'
import { article, campaign, judgement, limit, reduction, revision, test } from './schema'
import { stageStates } from './stageStates'

const now = () => new Date().toISOString()

export interface NewCampaign {
  title: string
  purpose: string
  due: string | null
  system: 'metric' | 'imperial'
  rule: 'guarded' | 'simple'
  convention: 'margin-of-safety' | 'reserve-factor'
  materials: unknown[]
}

export function createCampaign(database: Database, by: string, input: NewCampaign) {
  return database.write(async db => {
    const taken = new Set((await db.select({ slug: campaign.slug }).from(campaign)).map(c => c.slug))
    const base = input.title.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'campaign'
    let slug = base
    for (let n = 2; taken.has(slug); n++) slug = `${base}-${n}`
    const [made] = await db.insert(campaign).values({ ...input, slug, createdAt: now() }).returning()
    await record(db, { who: by, what: 'create', entity: 'campaign', entityId: made!.id, after: made })
    return made!
  })
}

/** A material that candidates may be made of, as entered; it must hold together for the advice to read it. */
export function addMaterial(database: Database, by: string, slug: string, entered: Record<string, unknown>) {
  parseSettings(material, entered, '')
  return database.write(async db => {
    const [found] = await db.select().from(campaign).where(eq(campaign.slug, slug))
    if (!found) throw notFound('campaign', slug)
    await db.update(campaign).set({ materials: [...found.materials, entered] }).where(eq(campaign.id, found.id))
    await record(db, { who: by, what: 'add material', entity: 'campaign', entityId: found.id, after: entered })
  })
}

export interface NewArticle {
  name: string
  family: string
  note: string
  revision: NewRevision
}

export interface NewRevision {
  label: string
  changed: string
  why: string
  mass: number | null
  properties: Record<string, unknown>
  parentId: number | null
}

export function createArticle(database: Database, by: string, campaignId: number, { revision: first, ...input }: NewArticle) {
  const family = familyOf(input.family)
  parseSettings(family.stages.article, first.properties, 'properties')
  return database.write(async db => {
    const [made] = await db.insert(article).values({ ...input, campaignId, createdAt: now() }).returning()
    await record(db, { who: by, what: 'create', entity: 'article', entityId: made!.id, after: made })
    return { ...made!, revision: await insertRevision(db, by, made!.id, first) }
  })
}

export function createRevision(database: Database, by: string, articleId: number, input: NewRevision) {
  return database.write(async db => {
    const [of] = await db.select().from(article).where(eq(article.id, articleId))
    if (!of) throw notFound('article', articleId)
    parseSettings(familyOf(of.family).stages.article, input.properties, 'properties')
    return insertRevision(db, by, articleId, input)
  })
}

export async function insertRevision(db: Db, by: string, articleId: number, input: NewRevision & { findingReductionId?: number }) {
  const same = await db.select().from(revision).where(and(eq(revision.articleId, articleId), eq(revision.label, input.label)))
  if (same.length > 0) throw new HypometError('taken', `There is already a revision ${input.label} of this article.`, { path: 'label' })
  const [made] = await db.insert(revision).values({ ...input, articleId, createdAt: now() }).returning()
  await record(db, { who: by, what: 'create', entity: 'revision', entityId: made!.id, after: made })
  return made!
}

export interface NewLimit {
  name: string
  quantity: string
  comparator: 'atLeast' | 'atMost'
  level: 'service' | 'limit' | 'ultimate' | 'required-factor'
  entered: QuantityInput
  source: string
}

/** A limit must be on a result of the article's family, in that result's dimension. */
export function createLimit(database: Database, by: string, articleId: number, input: NewLimit) {
  return database.write(async db => {
    const [of] = await db.select().from(article).where(eq(article.id, articleId))
    if (!of) throw notFound('article', articleId)
    const declared = familyOf(of.family).results[input.quantity]
    if (!declared) throw new HypometError('unknown-result', `A ${of.family} test has no result “${input.quantity}”.`, { path: 'quantity' })
    const value = parseSettings(quantity(declared.kind, { positive: true }), input.entered, 'entered')
    const [made] = await db.insert(limit).values({ ...input, articleId, value, createdAt: now() }).returning()
    await record(db, { who: by, what: 'create', entity: 'limit', entityId: made!.id, after: made })
    return made!
  })
}

export async function listCampaigns({ read }: Database) {
  const campaigns = await read.select().from(campaign).orderBy(asc(campaign.id))
  return Promise.all(campaigns.map(async c => ({ ...c, articles: await articlesOf(read, c.id) })))
}

export async function campaignPage({ read }: Database, slug: string) {
  const [found] = await read.select().from(campaign).where(eq(campaign.slug, slug))
  if (!found) throw notFound('campaign', slug)
  return { ...found, articles: await articlesOf(read, found.id) }
}

/** Articles with revisions, tests, stage states and the standing verdicts: what the thread and the matrix show. */
async function articlesOf(db: Db, campaignId: number) {
  const articles = await db.select().from(article).where(eq(article.campaignId, campaignId)).orderBy(asc(article.id))
  return Promise.all(articles.map(async a => {
    const revisions = await db.select().from(revision).where(eq(revision.articleId, a.id)).orderBy(asc(revision.id))
    const tests = revisions.length === 0 ? [] : await db.select().from(test).where(inArray(test.revisionId, revisions.map(r => r.id))).orderBy(asc(test.id))
    const limits = await db.select().from(limit).where(eq(limit.articleId, a.id)).orderBy(asc(limit.id))
    const { title, results } = familyOf(a.family)
    return {
      ...a, familyTitle: title, resultTypes: results as Record<string, ResultDeclaration>, limits,
      revisions: await Promise.all(revisions.map(async r => ({ ...r, tests: await Promise.all(tests.filter(t => t.revisionId === r.id).map(t => testSummary(db, t))) }))),
    }
  }))
}

async function testSummary(db: Db, t: typeof test.$inferSelect) {
  const [latest] = await db.select().from(reduction).where(eq(reduction.testId, t.id)).orderBy(desc(reduction.id)).limit(1)
  const [judged] = await db.select().from(judgement).where(eq(judgement.testId, t.id)).orderBy(desc(judgement.id)).limit(1)
  const standing = judged && latest && judged.reductionId === latest.id ? judged : null
  return { id: t.id, title: t.title, results: latest?.output.results ?? null, verdicts: standing?.verdicts ?? [], cause: standing?.cause ?? null, stages: await stageStates(db, t.id) }
}

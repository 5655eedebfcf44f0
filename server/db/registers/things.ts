import {
  articleRegister,
  campaignRegister,
  checkFacts,
  checkKnownFacts,
  HypometError,
  knownFactsOf,
  lineage,
  outlineOf,
  readArticle,
  quantity,
  revisionRegister,
  testRegister,
  type Fact,
  type QuantityInput,
} from '@hypomet/core'
import { and, asc, eq, getTableColumns, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { openPlans, refreshFirings } from '../tests/firings'
import {
  action,
  article,
  campaign,
  constant,
  dataset,
  firing,
  limit,
  prediction,
  readyMark,
  planVersion,
  rehearsal,
  revision,
  run,
  test,
} from '../schema'
import { storedRows, type RegisterRepository } from './repository'

const inCampaign = (campaignId: number) => eq(article.campaignId, campaignId)
const named = (rows: { name: string }[], sentence: (name: string) => string) => rows.map(r => sentence(r.name))

export const campaigns: RegisterRepository = {
  register: campaignRegister,
  table: campaign,
  closed: true,
  campaignOf: (_, stored) => Promise.resolve(stored.id),
  list: async db => storedRows(await db.select().from(campaign).orderBy(asc(campaign.id))),
  columns: row => row,
  usedBy: async (db, id) => [
    ...named(
      await db.select({ name: article.name }).from(article).where(inCampaign(id)),
      n => `the article “${n}” is in it`,
    ),
    ...named(
      await db.select({ name: constant.subject }).from(constant).where(eq(constant.campaignId, id)),
      n => `a constant of ${n} is in it`,
    ),
  ],
}

export const articles: RegisterRepository = {
  register: articleRegister,
  table: article,
  campaignOf: (_, stored) => Promise.resolve(stored['campaignId'] as number),
  list: async (db, campaignId) =>
    storedRows(await db.select().from(article).where(inCampaign(campaignId!)).orderBy(asc(article.id))),
  columns: row => row,
  async usedBy(db, id) {
    return [
      ...named(
        await db.select({ name: revision.label }).from(revision).where(eq(revision.articleId, id)),
        n => `revision ${n} is of it`,
      ),
      ...named(
        await db.select({ name: limit.name }).from(limit).where(eq(limit.articleId, id)),
        n => `the limit “${n}” is on it`,
      ),
    ]
  },
  async after(db, { after }) {
    if (after) for (const id of await openPlans(db, after.id)) await refreshFirings(db, id)
  },
}

export const revisions: RegisterRepository = {
  register: revisionRegister,
  table: revision,
  campaignOf: async (db, stored) =>
    (
      await db
        .select({ id: article.campaignId })
        .from(article)
        .where(eq(article.id, stored['articleId'] as number))
    )[0]?.id ?? null,
  list: async (db, campaignId) =>
    storedRows(
      await db
        .select(getTableColumns(revision))
        .from(revision)
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(inCampaign(campaignId!))
        .orderBy(asc(revision.articleId), asc(revision.id)),
    ),
  columns: row => ({ ...row, mass: row['mass'] === null ? null : quantity('mass').parse(row['mass']) }),
  async check(db, row, before) {
    const siblings = (
      await db
        .select()
        .from(revision)
        .where(eq(revision.articleId, row['articleId'] as number))
    ).filter(r => r.id !== before?.id)
    if (siblings.some(r => r.label === row['label']))
      throw new HypometError('taken', `There is already a revision ${String(row['label'])} of this article.`, {
        path: 'label',
      })
    if (before && row['parentId'] !== null && lineage(row['parentId'] as number, siblings).includes(before.id))
      throw new HypometError('own-ancestor', `Revision ${String(row['label'])} would be its own ancestor.`, {
        path: 'parentId',
      })
    const [of] = await db
      .select()
      .from(article)
      .where(eq(article.id, row['articleId'] as number))
    await takeConstants(db, of!.campaignId, row)
    // What is not said yet may wait; what is said must hold together.
    readArticle(of!.family, row['properties'])
    const facts = checkFacts(
      row['facts'],
      siblings.flatMap(r => r.facts as Fact[]),
    )
    // What was written down before anybody knew better stays until it is written anew.
    const stood = JSON.stringify(before?.['facts'] ?? null)
    if (JSON.stringify(facts) !== stood) checkKnownFacts(facts, knownFactsOf(of!.family))
    row['facts'] = facts
  },
  async usedBy(db, id) {
    return [
      ...named(
        await db.select({ name: revision.label }).from(revision).where(eq(revision.parentId, id)),
        n => `revision ${n} follows it`,
      ),
      ...named(
        await db.select({ name: test.title }).from(test).where(eq(test.revisionId, id)),
        n => `the test “${n}” is of it`,
      ),
      ...named(
        await db.select({ name: limit.name }).from(limit).where(eq(limit.fromRevisionId, id)),
        n => `the limit “${n}” holds from it on`,
      ),
      ...named(
        await db.select({ name: prediction.source }).from(prediction).where(eq(prediction.revisionId, id)),
        n => `a prediction (${n}) is for it`,
      ),
    ]
  },
}

/** Properties that are taken from a constant have its value; one that was typed over is taken from it no more. */
async function takeConstants(db: Db, campaignId: number, row: Record<string, unknown>): Promise<void> {
  const links = row['constants'] as Record<string, number>
  // A row of its own: what stood before goes into the record as it was.
  const properties = { ...(row['properties'] as Record<string, unknown>) }
  const wanted = Object.values(links)
  const found = new Map(
    (wanted.length === 0
      ? []
      : await db
          .select()
          .from(constant)
          .where(and(eq(constant.campaignId, campaignId), inArray(constant.id, wanted)))
    ).map(c => [c.id, c]),
  )
  for (const [key, id] of Object.entries(links)) {
    const c = found.get(id)
    if (!c)
      throw new HypometError('unknown-reference', 'This constant is not there any more.', { path: `constants.${key}` })
    properties[key] = c.entered satisfies QuantityInput
  }
  row['properties'] = properties
}

export const tests: RegisterRepository = {
  register: testRegister,
  table: test,
  campaignOf: async (db, stored) =>
    (
      await db
        .select({ id: article.campaignId })
        .from(revision)
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(eq(revision.id, stored['revisionId'] as number))
    )[0]?.id ?? null,
  list: async (db, campaignId) =>
    storedRows(
      await db
        .select(getTableColumns(test))
        .from(test)
        .innerJoin(revision, eq(revision.id, test.revisionId))
        .innerJoin(article, eq(article.id, revision.articleId))
        .where(inCampaign(campaignId!))
        .orderBy(asc(test.id)),
    ),
  columns: (row, context) => {
    const family = context.refs['revision']!.find(r => r.id === row['revisionId'])!.family!
    if (!outlineOf(family))
      throw new HypometError('unknown-family', `There is no kind of test “${family}”.`, { path: 'revisionId' })
    return { ...row, family }
  },
  async usedBy(db, id) {
    const [has, was, answered, asked] = await Promise.all([
      db.select({ id: dataset.id }).from(dataset).where(eq(dataset.testId, id)),
      db.select({ id: run.id }).from(run).where(eq(run.testId, id)),
      db.select({ answer: firing.answer }).from(firing).where(eq(firing.testId, id)),
      db.select({ question: action.question }).from(action).where(eq(action.testId, id)),
    ])
    const said = await db.select({ source: prediction.source }).from(prediction).where(eq(prediction.testId, id))
    return [
      ...(has.length + was.length > 0 ? ['it has been run: its records stay'] : []),
      ...(answered.some(f => f.answer) ? ['a lesson was answered for it'] : []),
      ...said.map(p => `a prediction (${p.source}) is for it`),
      ...asked.map(a => `the action “${a.question}” is linked to it`),
    ]
  },
  async clear(db, id) {
    await db.delete(firing).where(eq(firing.testId, id))
    await db.delete(readyMark).where(eq(readyMark.testId, id))
    await db.delete(rehearsal).where(eq(rehearsal.testId, id))
    await db.delete(planVersion).where(eq(planVersion.testId, id))
  },
  async after(db, { after }) {
    if (after) await refreshFirings(db, after.id)
  },
}

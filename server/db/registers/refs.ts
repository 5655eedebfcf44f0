import { familyOutlines, METRIC, preferenceOf, type RefOption, type RegisterContext } from '@hypomet/core'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { manyRows } from '../connection/manyRows'
import { article, campaign, limit, person, reduction, revision, test } from '../schema'

/** What the rows of a campaign may point to, by the names people know. */
export async function contextOf(db: Db, campaignId: number | null): Promise<RegisterContext> {
  const people: RefOption[] = await db
    .select({ id: person.id, label: person.name })
    .from(person)
    .orderBy(asc(person.name))
  if (campaignId === null) return { refs: { person: people }, prefer: METRIC, families: familyOutlines }
  const [c] = await db
    .select({ system: campaign.system, units: campaign.units, currency: campaign.currency })
    .from(campaign)
    .where(eq(campaign.id, campaignId))
  const { articles, revisions, limits, tests, findings } = await namesIn(db, campaignId)
  const byId = new Map(articles.map(a => [a.id, a]))
  const revisionName = new Map(
    revisions.map(({ id, label, articleId }) => {
      const { name, family, own, places } = byId.get(articleId)!
      return [id, { label: `${name} ${label}`, family, own, places, articleId }]
    }),
  )
  const testName = new Map(tests.map(t => [t.id, `${revisionName.get(t.revisionId)!.label}: ${t.title}`]))
  return {
    prefer: c ? preferenceOf(c) : METRIC,
    families: familyOutlines,
    currency: c?.currency,
    refs: {
      person: people,
      article: articles.map(({ id, name, ...a }) => ({ ...a, id, label: name, articleId: id })),
      revision: revisions.map(r => ({ id: r.id, ...revisionName.get(r.id)! })),
      limit: limits.map(l => ({
        id: l.id,
        label: `${byId.get(l.articleId)!.name}: ${l.name}`,
        articleId: l.articleId,
      })),
      test: tests.map(t => ({ id: t.id, label: testName.get(t.id)!, revisionId: t.revisionId })),
      finding: findings.map(f => ({ id: f.id, label: `${testName.get(f.testId)!} (results ${f.id})` })),
    },
  }
}

/** Ids and names of what a campaign holds, in the order of their articles. */
async function namesIn(db: Db, campaignId: number) {
  const inCampaign = eq(article.campaignId, campaignId)
  const articleIds = db.select({ id: article.id }).from(article).where(inCampaign)
  const revisionIds = db.select({ id: revision.id }).from(revision).where(inArray(revision.articleId, articleIds))
  const testIds = db.select({ id: test.id }).from(test).where(inArray(test.revisionId, revisionIds))
  const byArticle = (a: { id: number; articleId: number }, b: typeof a) => a.articleId - b.articleId || a.id - b.id
  const byId = (a: { id: number }, b: typeof a) => a.id - b.id
  const { id, articleId, name } = limit
  return {
    articles: (
      await manyRows(
        db,
        article,
        { id: article.id, name: article.name, family: article.family, own: article.own, places: article.places },
        inCampaign,
      )
    ).sort(byId),
    revisions: (
      await manyRows(
        db,
        revision,
        { id: revision.id, label: revision.label, articleId: revision.articleId },
        inArray(revision.articleId, articleIds),
      )
    ).sort(byArticle),
    limits: (await manyRows(db, limit, { id, articleId, name }, inArray(articleId, articleIds))).sort(byArticle),
    tests: (
      await manyRows(
        db,
        test,
        { id: test.id, title: test.title, revisionId: test.revisionId },
        inArray(test.revisionId, revisionIds),
      )
    ).sort(byId),
    findings: await manyRows(
      db,
      reduction,
      { id: reduction.id, testId: reduction.testId },
      inArray(reduction.testId, testIds),
    ),
  }
}

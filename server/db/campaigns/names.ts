import { asc } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { article, campaign, revision, test } from '../schema'
import { grouped } from '../tests/testSet'

/** Names of everything that has a page of its own, and nothing else: for whoever looks for it by name. */
export async function namesOf(db: Db) {
  const campaigns = await db
    .select({ id: campaign.id, slug: campaign.slug, title: campaign.title, system: campaign.system })
    .from(campaign)
    .orderBy(asc(campaign.id))
  const articles = grouped(
    await db
      .select({
        id: article.id,
        name: article.name,
        family: article.family,
        own: article.own,
        campaignId: article.campaignId,
      })
      .from(article)
      .orderBy(asc(article.id)),
    a => a.campaignId,
  )
  const revisions = grouped(
    await db
      .select({ id: revision.id, label: revision.label, articleId: revision.articleId })
      .from(revision)
      .orderBy(asc(revision.id)),
    r => r.articleId,
  )
  const tests = grouped(
    await db.select({ id: test.id, title: test.title, revisionId: test.revisionId }).from(test).orderBy(asc(test.id)),
    t => t.revisionId,
  )
  return campaigns.map(c => ({
    ...c,
    articles: (articles.get(c.id) ?? []).map(a => ({
      id: a.id,
      name: a.name,
      family: a.family,
      own: a.own,
      revisions: (revisions.get(a.id) ?? []).map(r => ({
        id: r.id,
        label: r.label,
        tests: (tests.get(r.id) ?? []).map(({ id, title }) => ({ id, title })),
      })),
    })),
  }))
}

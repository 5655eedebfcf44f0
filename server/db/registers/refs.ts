import { familyOutlines, IMPERIAL, METRIC, type RefOption, type RegisterContext } from '@hypomet/core'
import { asc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { article, campaign, limit, person, reduction, revision, test } from '../schema'

/** What the rows of a campaign may point to, by the names people know. */
export async function contextOf(db: Db, campaignId: number | null): Promise<RegisterContext> {
  const people: RefOption[] = await db
    .select({ id: person.id, label: person.name })
    .from(person)
    .orderBy(asc(person.name))
  if (campaignId === null) return { refs: { person: people }, prefer: METRIC, families: familyOutlines }
  const [c] = await db.select({ system: campaign.system }).from(campaign).where(eq(campaign.id, campaignId))
  const articles = await db.select().from(article).where(eq(article.campaignId, campaignId)).orderBy(asc(article.id))
  const byId = new Map(articles.map(a => [a.id, a]))
  const ids = articles.map(a => a.id)
  const revisions =
    ids.length === 0
      ? []
      : await db
          .select()
          .from(revision)
          .where(inArray(revision.articleId, ids))
          .orderBy(asc(revision.articleId), asc(revision.id))
  const limits =
    ids.length === 0
      ? []
      : await db.select().from(limit).where(inArray(limit.articleId, ids)).orderBy(asc(limit.articleId), asc(limit.id))
  const revisionName = new Map(
    revisions.map(r => [
      r.id,
      {
        label: `${byId.get(r.articleId)!.name} ${r.label}`,
        family: byId.get(r.articleId)!.family,
        articleId: r.articleId,
      },
    ]),
  )
  const tests =
    revisions.length === 0
      ? []
      : await db
          .select({ id: test.id, title: test.title, revisionId: test.revisionId })
          .from(test)
          .where(
            inArray(
              test.revisionId,
              revisions.map(r => r.id),
            ),
          )
          .orderBy(asc(test.id))
  const findings =
    tests.length === 0
      ? []
      : await db
          .select({ id: reduction.id, testId: reduction.testId })
          .from(reduction)
          .where(
            inArray(
              reduction.testId,
              tests.map(t => t.id),
            ),
          )
  const testName = new Map(tests.map(t => [t.id, `${revisionName.get(t.revisionId)!.label}: ${t.title}`]))
  return {
    prefer: c?.system === 'imperial' ? IMPERIAL : METRIC,
    families: familyOutlines,
    refs: {
      person: people,
      article: articles.map(a => ({ id: a.id, label: a.name, family: a.family, articleId: a.id })),
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

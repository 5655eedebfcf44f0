import { preferenceOf } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { article, campaign, revision, test } from '../schema'

/** Stored revision, article, family and units of a test; null where there is none. */
export async function testContext(db: Db, testId: number) {
  const [found] = await db
    .select({ test, revision, article, campaign })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .where(eq(test.id, testId))
  if (!found) return null
  const { campaign: c, ...rows } = found
  return { ...rows, prefer: preferenceOf(c) }
}

import { eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { article, campaign, revision, test } from '../schema'
import { preferenceOf } from './viewedPlan'

/** Stored revision, article, family and units of a test; null where there is none. */
export async function testContext(db: Db, testId: number) {
  const [found] = await db
    .select({ test, revision, article, system: campaign.system })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .where(eq(test.id, testId))
  if (!found) return null
  const { system, ...rows } = found
  return { ...rows, prefer: preferenceOf({ system }) }
}

import { asc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { article, decision, judgement, revision, test } from '../schema'

const testsOfCampaign = (db: Db, campaignId: number) =>
  db
    .select({ id: test.id })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(eq(article.campaignId, campaignId))

/** Every judgement of a campaign's tests, oldest first. */
export const judgementsOfCampaign = (db: Db, campaignId: number) =>
  db
    .select()
    .from(judgement)
    .where(inArray(judgement.testId, testsOfCampaign(db, campaignId)))
    .orderBy(asc(judgement.id))

/** Every decision on a change of a campaign's articles, oldest first. */
export const decisionsOfCampaign = (db: Db, campaignId: number) =>
  db
    .select()
    .from(decision)
    .where(inArray(decision.testId, testsOfCampaign(db, campaignId)))
    .orderBy(asc(decision.id))

import { decide, HypometError, underValidity, type Validity } from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import { record } from './audit'
import type { Database, Db } from './client'
import { article, campaign, judgement, limit, reduction, revision, test } from './schema'

export interface NewJudgement {
  validity: Validity
  cause: 'none' | 'article' | 'fixture' | 'instrumentation' | 'procedure' | 'manufacture'
  place: string
  mode: string
  note: string
}

/** Each limit of the test's article against a reduction, by the campaign's rule and under the validity judged. */
export async function verdictsFor(db: Db, reductionId: number, validity: Validity | null) {
  const [reduced] = await db.select().from(reduction).where(eq(reduction.id, reductionId))
  const [t] = await db.select().from(test).where(eq(test.id, reduced!.testId))
  const [r] = await db.select().from(revision).where(eq(revision.id, t!.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  const [c] = await db.select().from(campaign).where(eq(campaign.id, a!.campaignId))
  const limits = await db.select().from(limit).where(eq(limit.articleId, a!.id))
  return limits.map(l => {
    const result = reduced!.output.results[l.quantity] ?? { value: null, bound: 'exact' as const }
    return { limitId: l.id, ...underValidity(decide(result, l.comparator, l.value, c!.rule), validity) }
  })
}

/** Records the verdicts with cause and validity, naming the reduction that is judged. */
export function recordJudgement(database: Database, by: string, testId: number, input: NewJudgement) {
  return database.write(async db => {
    const [latest] = await db.select().from(reduction).where(eq(reduction.testId, testId)).orderBy(desc(reduction.id)).limit(1)
    if (!latest) throw new HypometError('no-results', 'There is no reduction to judge yet.')
    const decided = await verdictsFor(db, latest.id, input.validity)
    const verdicts = decided.map(({ limitId, verdict, reason }) => ({ limitId, verdict, reason }))
    const [made] = await db.insert(judgement).values({ testId, reductionId: latest.id, ...input, verdicts, by, createdAt: new Date().toISOString() }).returning()
    await record(db, { who: by, what: 'judge', entity: 'test', entityId: testId, after: made })
    return made!
  })
}

import { decide, HypometError, limitsOfRevision, underValidity, type Validity } from '@hypomet/core'
import { asc, desc, eq } from 'drizzle-orm'
import { record } from './audit'
import type { Database, Db } from './client'
import { article, campaign, judgement, limit, reduction, revision, test, type StoredVerdict } from './schema'

export interface NewJudgement {
  validity: Validity
  cause: 'none' | 'article' | 'fixture' | 'instrumentation' | 'procedure' | 'manufacture'
  place: string
  mode: string
  note: string
}

type Limit = typeof limit.$inferSelect

/** The limits that hold for a test: those of its article, as its revision inherits them. */
export async function limitsOfTest(db: Db, testId: number): Promise<Limit[]> {
  const [found] = await db.select({ revisionId: revision.id, articleId: revision.articleId }).from(test).innerJoin(revision, eq(revision.id, test.revisionId)).where(eq(test.id, testId))
  const revisions = await db.select().from(revision).where(eq(revision.articleId, found!.articleId))
  return limitsOfRevision(found!.revisionId, revisions, await db.select().from(limit).where(eq(limit.articleId, found!.articleId)).orderBy(asc(limit.id)))
}

/** Each limit of the test against a reduction, by the campaign's rule and under the validity judged. */
export async function verdictsFor(db: Db, reductionId: number, validity: Validity | null) {
  const [reduced] = await db.select().from(reduction).where(eq(reduction.id, reductionId))
  const [found] = await db.select({ rule: campaign.rule }).from(test).innerJoin(revision, eq(revision.id, test.revisionId)).innerJoin(article, eq(article.id, revision.articleId)).innerJoin(campaign, eq(campaign.id, article.campaignId)).where(eq(test.id, reduced!.testId))
  return (await limitsOfTest(db, reduced!.testId)).map(l => {
    const result = reduced!.output.results[l.quantity] ?? { value: null, bound: 'exact' as const }
    return { limitId: l.id, against: { quantity: l.quantity, comparator: l.comparator, value: l.value }, ...underValidity(decide(result, l.comparator, l.value, found!.rule), validity) }
  })
}

/** Verdicts with whether they still stand: a limit that was changed or withdrawn since reopens those it decided. */
export function standingVerdicts(verdicts: readonly StoredVerdict[], limits: readonly Limit[]): (StoredVerdict & { stands: boolean })[] {
  return verdicts.map(v => {
    const l = limits.find(x => x.id === v.limitId)
    const stands = l !== undefined && l.state === 'in-force' && (!v.against || (v.against.quantity === l.quantity && v.against.comparator === l.comparator && v.against.value === l.value))
    return { ...v, stands }
  })
}

/** Records the verdicts with cause and validity, naming the reduction that is judged. */
export function recordJudgement(database: Database, by: string, testId: number, input: NewJudgement) {
  return database.write(async db => {
    const [latest] = await db.select().from(reduction).where(eq(reduction.testId, testId)).orderBy(desc(reduction.id)).limit(1)
    if (!latest) throw new HypometError('no-results', 'There is no reduction to judge yet.')
    const decided = await verdictsFor(db, latest.id, input.validity)
    const verdicts = decided.map(({ limitId, verdict, reason, against }) => ({ limitId, verdict, reason, against }))
    const [made] = await db.insert(judgement).values({ testId, reductionId: latest.id, ...input, verdicts, by, createdAt: new Date().toISOString() }).returning()
    await record(db, { who: by, what: 'judge', entity: 'test', entityId: testId, after: made })
    return made!
  })
}

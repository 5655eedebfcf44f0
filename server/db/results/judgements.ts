import {
  checkAnswers,
  decide,
  families,
  formatQuantity,
  HypometError,
  isCounted,
  limitsOfRevision,
  resultsOf,
  underCause,
  underValidity,
  type Answer,
  type Cause,
  type DeclaredOwn,
  type Validity,
  type UnitPreference,
} from '@hypomet/core'
import { asc, desc, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { UNNAMED } from '../connection/unnamed'
import { article, campaign, judgement, limit, reduction, revision, test, type StoredVerdict } from '../schema'

export interface NewJudgement {
  validity: Validity
  cause: Cause
  place: string
  mode: string
  note: string
  answers: Partial<Record<string, Answer>>
}

type Limit = typeof limit.$inferSelect
type Reduced = Pick<typeof reduction.$inferSelect, 'id' | 'by' | 'output'>

/** The limits that hold for a test: those of its article, as its revision inherits them. */
export async function limitsOfTest(db: Db, testId: number): Promise<Limit[]> {
  const [found] = await db
    .select({ revisionId: revision.id, articleId: revision.articleId })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(eq(test.id, testId))
  const revisions = await db.select().from(revision).where(eq(revision.articleId, found!.articleId))
  return limitsOfRevision(
    found!.revisionId,
    revisions,
    await db.select().from(limit).where(eq(limit.articleId, found!.articleId)).orderBy(asc(limit.id)),
  )
}

/**
 * Each limit that the test answers against a reduction, by the campaign's rule and under the validity and the cause
 * judged.
 */
export async function verdictsFor(db: Db, reductionId: number, validity: Validity | null, cause: Cause | null) {
  const [reduced] = await db.select().from(reduction).where(eq(reduction.id, reductionId))
  const [found] = await db
    .select({ rule: campaign.rule, family: test.family })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .where(eq(test.id, reduced!.testId))
  const declared = families[found!.family]?.results ?? {}
  const results = underCause(reduced!.output.results, cause, declared)
  return (await limitsOfTest(db, reduced!.testId)).flatMap(l => {
    const result = results[l.quantity]
    return result === undefined
      ? []
      : [
          {
            limitId: l.id,
            against: { quantity: l.quantity, comparator: l.comparator, value: l.value },
            ...underValidity(
              decide(result, l.comparator, l.value, found!.rule, isCounted(declared[l.quantity])),
              validity,
            ),
          },
        ]
  })
}

/** Verdicts with whether they still stand, and where they do not, why: a limit that was changed or withdrawn since. */
export function currentVerdicts(
  verdicts: readonly StoredVerdict[],
  limits: ReadonlyMap<number, Limit>,
  show: (limit: { quantity: string; value: number }) => string = l => String(l.value),
): (StoredVerdict & { stands: boolean; why: string })[] {
  return verdicts.map(v => {
    const l = limits.get(v.limitId)
    const why = !l
      ? 'the limit is gone'
      : l.state !== 'in-force'
        ? 'the limit was withdrawn'
        : !v.against
          ? ''
          : v.against.quantity !== l.quantity || v.against.comparator !== l.comparator
            ? 'the limit asks something else now'
            : v.against.value === l.value
              ? ''
              : `the limit was ${show(v.against)} and is ${show(l)}`
    return { ...v, stands: why === '', why }
  })
}

/** Writes a value of a limit in the units of a test's campaign. */
export const limitWords =
  (family: string, prefer: UnitPreference, own: readonly DeclaredOwn[] = []) =>
  ({ quantity, value }: { quantity: string; value: number }): string =>
    formatQuantity(value, resultsOf(family, own)[quantity]?.kind ?? 'ratio', { prefer, digits: 4 })

/** What a newer reduction changed against the one that was judged. */
export function supersededBy(
  old: Reduced,
  latest: Reduced,
  show: (l: { quantity: string; value: number }) => string,
): string {
  const moved = Object.entries(latest.output.results).flatMap(([quantity, r]) => {
    const before = old.output.results[quantity]
    return before?.value == null || r.value === null || before.value === r.value
      ? []
      : [`${show({ quantity, value: before.value })} → ${show({ quantity, value: r.value })}`]
  })
  const more = moved.length > 3 ? ` and ${moved.length - 3} more` : ''
  const what = moved.length === 0 ? ', with the same results' : `: ${moved.slice(0, 3).join(', ')}${more}`
  return `Reduction ${latest.id} by ${latest.by} took the place of reduction ${old.id}${what}.`
}

/** Records the verdicts with cause and validity, naming the reduction that is judged. */
export function recordJudgement(database: Database, by: string, testId: number, input: NewJudgement) {
  return database.write(async db => {
    const [latest] = await db
      .select()
      .from(reduction)
      .where(eq(reduction.testId, testId))
      .orderBy(desc(reduction.id))
      .limit(1)
    if (!latest) throw new HypometError('no-results', 'There is no reduction to judge yet.')
    if (by === UNNAMED)
      throw new HypometError('missing-name', 'Say who you are, top right: a verdict is signed by name.')
    checkAnswers(input.answers, input.validity)
    const decided = await verdictsFor(db, latest.id, input.validity, input.cause)
    const answers = input.answers as Record<string, Answer>
    const verdicts = decided.map(({ limitId, verdict, reason, against }) => ({ limitId, verdict, reason, against }))
    const [made] = await db
      .insert(judgement)
      .values({ testId, reductionId: latest.id, ...input, answers, verdicts, by, createdAt: new Date().toISOString() })
      .returning()
    await audit(db, { who: by, what: 'judge', entity: 'test', entityId: testId, after: made })
    return made!
  })
}

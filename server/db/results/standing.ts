import { families, underCause, type Cause, type Result, type Validity } from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { judgement, reduction, test } from '../schema'

/** Without its figures, which are long and which few want. */
const KEPT = { id: reduction.id, output: reduction.output, settings: reduction.settings }

export interface StandingResults {
  reduction: Pick<typeof reduction.$inferSelect, keyof typeof KEPT>
  /** The newest judgement, whichever reduction it named: what ended the test does not change with how it is reduced. */
  judgement: typeof judgement.$inferSelect | null
  cause: Cause | null
  validity: Validity | null
  /** Under the judged cause. */
  results: Record<string, Result>
}

/** The newest results of a test as they stand under what was judged of it; null where there are none. */
export async function standingResults(db: Db, testId: number): Promise<StandingResults | null> {
  const [kept] = await db
    .select(KEPT)
    .from(reduction)
    .where(eq(reduction.testId, testId))
    .orderBy(desc(reduction.id))
    .limit(1)
  if (!kept) return null
  const [judged] = await db
    .select()
    .from(judgement)
    .where(eq(judgement.testId, testId))
    .orderBy(desc(judgement.id))
    .limit(1)
  const [t] = await db.select({ family: test.family }).from(test).where(eq(test.id, testId))
  const cause = judged?.cause ?? null
  return {
    reduction: kept,
    judgement: judged ?? null,
    cause,
    validity: judged?.validity ?? null,
    results: underCause(kept.output.results, cause, families[t!.family]?.results ?? {}),
  }
}

/** The figures that were kept with a reduction. */
export const figuresOf = async (db: Db, reductionId: number) =>
  (await db.select({ figures: reduction.figures }).from(reduction).where(eq(reduction.id, reductionId)))[0]!.figures

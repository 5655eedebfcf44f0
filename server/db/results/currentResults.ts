import { families, underCause, type Cause, type MethodOutput, type Result, type Validity } from '@hypomet/core'
import { inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { reduction, type judgement } from '../schema'
import { TestSet } from '../tests/testSet'

export interface CurrentResults {
  reduction: Pick<typeof reduction.$inferSelect, 'id' | 'settings'> & {
    /** What its results of one’s own measure. */
    output: Pick<MethodOutput, 'own'>
  }
  /** The newest judgement, whichever reduction it named: what ended the test does not change with how it is reduced. */
  judgement: typeof judgement.$inferSelect | null
  cause: Cause | null
  validity: Validity | null
  /** Under the judged cause. */
  results: Record<string, Result>
}

/** The newest results of each test of a set under what was judged of it; tests without results have none. */
export async function currentResultsOf(set: TestSet): Promise<Map<number, CurrentResults>> {
  const [tests, judged] = [await set.tests(), await set.judged()]
  return new Map(
    [...(await set.reduced())].map(([testId, reduced]) => {
      const judgement = judged.get(testId) ?? null
      const cause = judgement?.cause ?? null
      const declared = families[tests.get(testId)!.family]?.results ?? {}
      return [
        testId,
        {
          reduction: {
            id: reduced.id,
            settings: reduced.settings,
            output: reduced.own === undefined ? {} : { own: reduced.own },
          },
          judgement,
          cause,
          validity: judgement?.validity ?? null,
          results: underCause(reduced.results, cause, declared),
        },
      ]
    }),
  )
}

/** The same of one test; null where there are none. */
export const currentResults = async (db: Db, testId: number): Promise<CurrentResults | null> =>
  (await currentResultsOf(new TestSet(db, { testId }))).get(testId) ?? null

/** The figures that were kept with some reductions, by reduction. */
export async function figuresOf(db: Db, reductionIds: readonly number[]) {
  const rows = await db
    .select({ id: reduction.id, figures: reduction.figures })
    .from(reduction)
    .where(inArray(reduction.id, [...reductionIds]))
  return new Map(rows.map(r => [r.id, r.figures]))
}

/** @throws HypometError `not-found` */
export async function keptFigures(db: Db, reductionId: number) {
  const figures = (await figuresOf(db, [reductionId])).get(reductionId)
  if (!figures) throw notFound('reduction', reductionId)
  return figures
}

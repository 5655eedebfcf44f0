import { families, planSchemaOf, zeroOf } from '@hypomet/core'
import { and, asc, eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { revision, test } from '../schema'
import { figuresOf, currentResultsOf } from '../results/currentResults'
import { TestSet } from '../tests/testSet'

/** All tests of a test's article and kind that have results: specimens beside one another, with their main curves. */
export async function specimensOf(db: Db, testId: number) {
  const [own] = await db
    .select({ articleId: revision.articleId, family: test.family })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(eq(test.id, testId))
  if (!own) throw notFound('test', testId)
  const { measure, alike, again } = families[own.family]?.set ?? {}
  const schema = planSchemaOf(own.family)
  const tests = await db
    .select({
      id: test.id,
      title: test.title,
      plan: test.plan,
      fixture: test.fixture,
      method: test.method,
      revision: revision.label,
      mass: revision.mass,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(and(eq(revision.articleId, own.articleId), eq(test.family, own.family)))
    .orderBy(asc(revision.id), asc(test.id))
  const standing = await currentResultsOf(new TestSet(db, { articleId: own.articleId }))
  const figures = await figuresOf(
    db,
    tests.flatMap(t => standing.get(t.id)?.reduction.id ?? []),
  )
  const specimens = []
  for (const { plan, fixture, method, ...t } of tests) {
    const standsAs = standing.get(t.id)
    if (!standsAs) continue
    const { reduction: kept, judgement: judged } = standsAs
    const read = measure ? schema.safeParse(plan ?? {}) : null
    const value = read?.success ? (read.data as unknown as Record<string, unknown>)[measure!.key] : undefined
    const [name, figure] = Object.entries(figures.get(kept.id) ?? {})[0] ?? []
    specimens.push({
      ...t,
      alike: alike ? JSON.stringify(kept.settings[alike] ?? null) : null,
      setUp: [fixture, method]
        .map(w => w.trim())
        .filter(Boolean)
        .join(', '),
      zero: zeroOf(families[own.family], kept.settings),
      isAgain: again !== undefined && kept.settings[again] !== undefined,
      results: standsAs.results,
      measure: typeof value === 'number' ? value : null,
      place: judged?.place ?? '',
      mode: judged?.mode ?? '',
      cause: judged?.cause ?? null,
      judged: judged !== null,
      invalid: judged?.validity === 'invalid',
      curve: figure
        ? {
            name,
            x: figure.x,
            y: figure.y,
            series: figure.series.filter(s => s.style === 'measured').slice(-1),
            ...(figure.field ? { field: figure.field } : {}),
          }
        : null,
    })
  }
  // What was reduced as another kind of thing is not compared.
  const kinds = specimens.find(s => s.id === testId)?.alike
  return alike ? specimens.filter(s => s.alike === kinds) : specimens
}

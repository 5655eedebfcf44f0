import { families, formatQuantity, HypometError, METRIC, IMPERIAL, parseSettings, type Advice, type Candidate } from '@hypomet/core'
import { desc, eq, inArray } from 'drizzle-orm'
import { record } from './audit'
import { insertRevision } from './campaigns'
import type { Database, Db } from './client'
import { notFound } from './notFound'
import { article, campaign, limit, prediction, reduction, revision, test } from './schema'

/** The revision that was decided on a test's findings, if any. */
export async function revisionAfter(db: Db, testId: number) {
  const reductions = await db.select({ id: reduction.id }).from(reduction).where(eq(reduction.testId, testId))
  if (reductions.length === 0) return null
  const [found] = await db.select().from(revision).where(inArray(revision.findingReductionId, reductions.map(r => r.id))).orderBy(desc(revision.id)).limit(1)
  return found ?? null
}

/** Candidates for the next revision, sized from the latest reduction of a test. */
export async function adviceFor(db: Db, testId: number, settings: unknown): Promise<Advice> {
  return (await gather(db, testId, settings)).advice
}

async function gather(db: Db, testId: number, settings: unknown) {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  const [reduced] = await db.select().from(reduction).where(eq(reduction.testId, testId)).orderBy(desc(reduction.id)).limit(1)
  if (!reduced || !t.plan) throw new HypometError('no-results', 'There are no results yet to size a change from.')
  const [r] = await db.select().from(revision).where(eq(revision.id, t.revisionId))
  const [a] = await db.select().from(article).where(eq(article.id, r!.articleId))
  const [c] = await db.select().from(campaign).where(eq(campaign.id, a!.campaignId))
  const limits = await db.select().from(limit).where(eq(limit.articleId, a!.id))
  const { stages } = families[t.family]!
  const advice = stages.advise({
    article: parseSettings(stages.article, r!.properties, 'properties'), plan: parseSettings(stages.plan, t.plan, 'plan'),
    mass: r!.mass, results: reduced.output.results, limits, materials: c!.materials, rule: c!.rule, settings,
  })
  return { advice, test: t, reduced, revision: r!, article: a!, campaign: c! }
}

/**
 * Makes a candidate the next revision: its properties, its mass, and a test with the same plan whose predictions
 * stand ready to be locked by the first sample.
 */
export function acceptCandidate(database: Database, by: string, testId: number, input: { candidateId: string; label: string; settings: unknown }) {
  return database.write(async db => {
    const { advice, test: t, reduced, revision: from, article: of, campaign: c } = await gather(db, testId, input.settings)
    const candidate = advice.candidates.find(k => k.id === input.candidateId)
    if (!candidate) throw new HypometError('no-candidate', 'This candidate is no longer there: results or limits have changed. Look at the new ones.', { path: 'candidateId' })
    const { needs, driver } = advice
    const made = await insertRevision(db, by, of.id, {
      label: input.label, parentId: from.id, mass: candidate.mass, findingReductionId: reduced.id,
      properties: { ...from.properties, ...Object.fromEntries(candidate.changes.map(k => [k.property, k.to])) },
      changed: changeInWords(candidate, c.system === 'imperial' ? IMPERIAL : METRIC),
      why: advice.overDesigned ? `Revision ${from.label} meets every limit with room: mass comes out.` : driver ? `${driver.limit.name} of revision ${from.label}: ${driver.driver}-driven, ${needs.filter(n => n.ratio > 1).length} of ${needs.length} limits short of the wanted margin.` : '',
    })
    const at = new Date().toISOString()
    const [next] = await db.insert(test).values({ revisionId: made.id, family: t.family, title: t.title, plan: t.plan, createdAt: at }).returning()
    await db.insert(prediction).values(Object.entries(candidate.predictions).map(([quantity, p]) => ({
      testId: next!.id, quantity, value: p.value!, u: p.u ?? 0, k: p.k ?? 2, bound: p.bound, source: `scaled from revision ${from.label}`, createdAt: at,
    })))
    await record(db, { who: by, what: 'accept candidate', entity: 'test', entityId: next!.id, after: { candidate, revisionId: made.id } })
    return { revision: made, testId: next!.id }
  })
}

const changeInWords = ({ changes }: Candidate, prefer: typeof METRIC): string =>
  changes.map(c => `${c.label.toLowerCase()} ${formatQuantity(c.from, c.kind, { prefer, digits: 3 })} → ${formatQuantity(c.to, c.kind, { prefer, digits: 3 })}`).join(', ')

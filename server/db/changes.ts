import { randomUUID } from 'node:crypto'
import { families, formatQuantity, HypometError, METRIC, IMPERIAL, parseSettings, type Advice, type Candidate } from '@hypomet/core'
import { desc, eq, inArray } from 'drizzle-orm'
import { record } from './audit'
import type { Database, Db } from './client'
import { limitsOfTest } from './judgements'
import { materialsOf } from './materials'
import { notFound } from './notFound'
import { writeRowsIn } from './registers/book'
import { refreshFirings } from './firings'
import { article, campaign, prediction, reduction, revision, test } from './schema'

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
  const limits = await limitsOfTest(db, testId)
  const materials = await materialsOf(db, c!.id)
  const stages = families[t.family]?.stages
  if (!stages?.advise || !stages.article) throw new HypometError('no-advice', 'Changes of this kind of test are not sized here yet: make the next revision on the article’s page.')
  const advice = stages.advise({
    article: parseSettings(stages.article, r!.properties, 'properties'), plan: parseSettings(stages.plan, t.plan, 'plan'),
    mass: r!.mass, results: reduced.output.results, limits, materials, rule: c!.rule, settings,
  })
  return { advice, materials, test: t, reduced, revision: r!, article: a!, campaign: c! }
}

/**
 * Makes a candidate the next revision: its properties, its mass, and a test with the same plan whose predictions
 * stand ready to be locked by the first sample.
 */
export function acceptCandidate(database: Database, by: string, testId: number, input: { candidateId: string; label: string; settings: unknown }) {
  return database.write(async db => {
    const { advice, materials, test: t, reduced, revision: from, article: of, campaign: c } = await gather(db, testId, input.settings)
    const candidate = advice.candidates.find(k => k.id === input.candidateId)
    if (!candidate) throw new HypometError('no-candidate', 'This candidate is no longer there: results or limits have changed. Look at the new ones.', { path: 'candidateId' })
    const { needs, driver } = advice
    const changed = Object.fromEntries(candidate.changes.map(k => [k.property, k.to]))
    // A property that becomes that of a material known here is taken from its constant; one that is changed by hand from none.
    const material = materials.find(m => Object.entries(m.si).every(([key, value]) => changed[key] === undefined || changed[key] === value))
    const links = { ...Object.fromEntries(Object.entries(from.constants).filter(([key]) => changed[key] === undefined)), ...Object.fromEntries(Object.entries(material?.constants ?? {}).filter(([key]) => changed[key] !== undefined)) }
    const step = randomUUID()
    const { ids: [revisionId] } = await writeRowsIn(db, by, 'revision', { campaignId: c.id, changes: [], removes: [], creates: [{
      articleId: of.id, label: input.label, parentId: from.id, mass: candidate.mass, findingReductionId: reduced.id,
      properties: { ...from.properties, ...changed }, facts: from.facts, constants: links,
      changed: changeInWords(candidate, c.system === 'imperial' ? IMPERIAL : METRIC),
      why: advice.overDesigned ? `Revision ${from.label} meets every limit with room: mass comes out.` : driver ? `${driver.limit.name} of revision ${from.label}: ${driver.driver}-driven, ${needs.filter(n => n.ratio > 1).length} of ${needs.length} limits short of the wanted margin.` : '',
    }] }, step)
    const [made] = await db.select().from(revision).where(eq(revision.id, revisionId!))
    const at = new Date().toISOString()
    const [next] = await db.insert(test).values({ revisionId: made!.id, family: t.family, title: t.title, fixture: t.fixture, method: t.method, plan: t.plan, createdAt: at }).returning()
    await record(db, { who: by, what: 'create', entity: 'test', entityId: next!.id, after: next, step })
    const predicted = await db.insert(prediction).values(Object.entries(candidate.predictions).map(([quantity, p]) => ({
      revisionId: made!.id, testId: next!.id, quantity, value: p.value!, u: p.u ?? 0, k: p.k ?? 2, bound: p.bound, method: 'scaled', source: `scaled from revision ${from.label}`, createdAt: at,
    }))).returning()
    for (const p of predicted) await record(db, { who: by, what: 'create', entity: 'prediction', entityId: p.id, after: p, step })
    await record(db, { who: by, what: 'accept candidate', entity: 'test', entityId: next!.id, after: { candidate, revisionId: made!.id } })
    await refreshFirings(db, next!.id)
    return { revision: made!, testId: next!.id, step }
  })
}

const changeInWords = ({ changes }: Candidate, prefer: typeof METRIC): string =>
  changes.map(c => `${c.label.toLowerCase()} ${formatQuantity(c.from, c.kind, { prefer, digits: 3 })} → ${formatQuantity(c.to, c.kind, { prefer, digits: 3 })}`).join(', ')

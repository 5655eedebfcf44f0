import { randomUUID } from 'node:crypto'
import {
  checkSizingRules,
  formatQuantity,
  HypometError,
  ownOf,
  preferenceOf,
  siOfConstant,
  type Result,
  type RevisionTested,
  type SizingInput,
  type SizingRulesInput,
  type UnitPreference,
  limitsOfRevision,
} from '@hypomet/core'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { eq, inArray } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { materialsOf } from './materials'
import { notFound } from '../connection/notFound'
import { constant, article, revision, test } from '../schema'
import { currentResultsOf, type CurrentResults } from '../results/currentResults'
import { TestSet } from '../tests/testSet'

/** Sized from what one test measured, or from all tests of the revision together. */
export type SizedFrom = 'test' | 'revision'

/** All that changes of a tested revision are sized from; the browser works on it by itself. */
export async function sizingInputOf(db: Db, testId: number, from: SizedFrom = 'test') {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  const [own] = await db.select({ articleId: revision.articleId }).from(revision).where(eq(revision.id, t.revisionId))
  const set = new TestSet(db, { articleId: own!.articleId })
  const standing = await currentResultsOf(set)
  const measured = standing.get(testId)
  if (!measured) throw new HypometError('no-results', 'There are no results yet to size a change from.')
  const revisions = await set.revisions()
  const [r, a] = [revisions.get(t.revisionId)!, (await set.articles()).get(own!.articleId)!]
  const c = (await set.campaigns()).get(a.campaignId)!
  const tested = [...(await set.tests()).values()].filter(x => x.family === t.family)
  const pooledAt = (revisionId: number) =>
    pooled(tested.flatMap(x => (x.revisionId === revisionId ? (standing.get(x.id) ?? []) : [])))
  const here = pooledAt(r.id)
  const history: RevisionTested[] = []
  for (const other of revisions.values()) {
    if (other.id === r.id) continue
    const { n, means } = pooledAt(other.id)
    if (n > 0) history.push({ label: other.label, properties: other.properties, facts: other.facts, results: means })
  }
  const results = from === 'revision' && here.n > 0 ? here.results : measured.results
  const input: SizingInput = {
    family: t.family,
    revision: {
      label: r.label,
      properties: r.properties,
      facts: r.facts,
      results: here.n > 0 ? here.means : measured.results,
    },
    plan: t.plan,
    settings: measured.reduction.settings,
    mass: r.mass,
    results,
    limits: limitsOfRevision(r.id, [...revisions.values()], await set.limits()).map(
      ({ id, name, quantity, comparator, value }) => ({
        id,
        name,
        quantity,
        comparator,
        value,
      }),
    ),
    materials: await withEvidence(db, await materialsOf(db, c.id), preferenceOf(c)),
    rule: c.rule,
    rules: a.sizing,
    history,
    own: ownOf(a.own, measured.reduction),
  }
  return { input, specimens: here.n, test: t, reduced: measured.reduction, revision: r, article: a, campaign: c }
}

/**
 * Results of a revision's tests of one kind together: their mean with the uncertainty of the next specimen, and with
 * that of the mean itself. Tests that show nothing do not count.
 */
function pooled(tests: readonly CurrentResults[]): {
  n: number
  results: Record<string, Result>
  means: Record<string, Result>
} {
  const all = tests.filter(s => s.validity !== 'invalid').map(s => s.results)
  const keys = [...new Set(all.flatMap(Object.keys))]
  const values = (key: string) => all.flatMap(r => (r[key]?.value == null ? [] : [r[key]]))
  const together = (next: boolean) =>
    Object.fromEntries(
      keys.flatMap(key => (list => (list.length === 0 ? [] : [[key, meanOf(list, next)]]))(values(key))),
    )
  return { n: all.length, results: together(true), means: together(false) }
}

function meanOf(values: Result[], next: boolean): Result {
  const [first] = values
  const n = values.length
  if (n === 1) return first!
  // A lower bound among exact values makes the mean one, too.
  const bound = values.every(v => v.bound === 'exact') ? 'exact' : 'atLeast'
  const mean = values.reduce((s, v) => s + v.value!, 0) / n
  const sd = Math.sqrt(values.reduce((s, v) => s + (v.value! - mean) ** 2, 0) / (n - 1))
  const read = Math.sqrt(values.reduce((s, v) => s + (v.u ?? 0) ** 2, 0) / n)
  return {
    value: mean,
    unit: first!.unit,
    bound,
    u: Math.hypot(sd * Math.sqrt((next ? 1 : 0) + 1 / n), read),
    k: tQuantile(0.97725, n - 1),
  }
}

/** Where each of a material's numbers comes from: a measured constant has taken the supplier's place, or has not. */
async function withEvidence(db: Db, materials: Awaited<ReturnType<typeof materialsOf>>, prefer: UnitPreference) {
  const ids = materials.flatMap(m => Object.values(m.constants))
  const rows = ids.length === 0 ? [] : await db.select().from(constant).where(inArray(constant.id, ids))
  return materials.map(m => ({
    ...m,
    evidence: Object.values(m.constants).flatMap(id => {
      const row = rows.find(x => x.id === id)
      if (!row) return []
      const { value, kind } = siOfConstant(row)
      return [
        `${row.property} ${formatQuantity(value, kind, { prefer, digits: 3 })}: ` +
          `${row.origin}${row.n ? `, n = ${row.n}` : ''}${row.source ? `, ${row.source}` : ''}.`,
      ]
    }),
  }))
}

/** Keeps what can be bought or made, and what is wanted, with the article. */
export function keepSizingRules(database: Database, by: string, articleId: number, rules: SizingRulesInput) {
  return database.write(async db => {
    const [before] = await db.select().from(article).where(eq(article.id, articleId))
    if (!before) throw notFound('article', articleId)
    checkSizingRules(before.family, rules)
    const step = randomUUID()
    await db
      .update(article)
      .set({ sizing: rules, version: before.version + 1 })
      .where(eq(article.id, articleId))
    const [after] = await db.select().from(article).where(eq(article.id, articleId))
    await audit(db, { who: by, what: 'sizing rules', entity: 'article', entityId: articleId, before, after, step })
    return { step }
  })
}

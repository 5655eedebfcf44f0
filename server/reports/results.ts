import { families, HypometError, underCause, writeCsv } from '@hypomet/core'
import type { AuditHead } from '../db/connection/auditHead'
import type { Database } from '../db/connection/client'
import { verdictsFor } from '../db/results/judgements'
import { testPage } from '../db/tests/tests'

async function latest(database: Database, testId: number) {
  const page = await testPage(database, testId)
  const [reduction] = page.reductions
  if (!reduction) throw new HypometError('no-results', 'There are no results to export yet.')
  const standing = page.judgement?.reductionId === reduction.id ? page.judgement.validity : null
  const cause = page.judgement?.cause ?? null
  return {
    page,
    reduction,
    verdicts: await verdictsFor(database.read, reduction.id, standing, cause),
    results: underCause(reduction.output.results, cause, families[page.test.family]?.results ?? {}),
  }
}

/** Everything a reader needs to recompute: results, tables, settings and the hashes of what went in. SI. */
export async function resultsJson(database: Database, testId: number, auditHead: AuditHead | null) {
  const { page, reduction, verdicts, results } = await latest(database, testId)
  const { campaign, article, revision, test, limits, predictions, judgement } = page
  return {
    campaign: campaign.title,
    article: article.name,
    revision: revision.label,
    test: test.title,
    ...reduction.output,
    /** Where the judged cause makes bounds of values, as they stand now. */
    standing: results,
    settings: reduction.settings,
    inputSha256: reduction.inputSha256,
    outputSha256: reduction.outputSha256,
    softwareVersion: reduction.softwareVersion,
    reducedAt: reduction.createdAt,
    reducedBy: reduction.by,
    limits: limits.map(l => ({
      name: l.name,
      quantity: l.quantity,
      comparator: l.comparator,
      value: l.value,
      level: l.level,
      ...verdicts.find(v => v.limitId === l.id),
    })),
    predictions,
    judgement,
    auditHead,
  }
}

/** One row a result, SI, with bound, uncertainty, limit and verdict. */
export async function resultsCsv(database: Database, testId: number): Promise<string> {
  const { page, results, verdicts } = await latest(database, testId)
  const header = ['result', 'value', 'unit', 'bound', 'u', 'k', 'limit', 'comparator', 'limit_value', 'verdict']
  const rows = Object.entries(results).flatMap(([key, r]) => {
    const bound = typeof r.bound === 'object' ? `interval ${r.bound.interval.join(' ')}` : r.bound
    const own = [key, r.value, r.unit, bound, r.u, r.k]
    const limits = page.limits.filter(l => l.quantity === key)
    return limits.length === 0
      ? [[...own, '', '', '', '']]
      : limits.map(l => [...own, l.name, l.comparator, l.value, verdicts.find(v => v.limitId === l.id)?.verdict])
  })
  return writeCsv([header, ...rows])
}

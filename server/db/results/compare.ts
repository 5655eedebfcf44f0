import { families, ownOf, placesCompared, speaksOf, zeroOf } from '@hypomet/core'
import { asc, desc, eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { evidenceOf } from './evidence'
import { article, campaign, reduction, revision, test } from '../schema'
import { figuresOf, currentResults } from './currentResults'
import { predictionsOf } from '../tests/tests'

/** Tests with results, to choose from. */
export async function comparable(db: Db) {
  const reduced = new Set((await db.select({ id: reduction.testId }).from(reduction)).map(r => r.id))
  const rows = await db
    .select({ id: test.id, title: test.title, family: test.family, revision: revision.label, article: article.name })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .orderBy(asc(article.id), asc(revision.id), asc(test.id))
  return rows.filter(r => reduced.has(r.id))
}

/** Tests beside one another: their results as they stand, their curves, what was predicted, and what was read twice. */
export async function comparedOf(db: Db, ids: readonly number[]) {
  const rows = await db
    .select({
      id: test.id,
      title: test.title,
      family: test.family,
      revisionId: revision.id,
      revision: revision.label,
      articleId: article.id,
      article: article.name,
      articleOwn: article.own,
      system: campaign.system,
      units: campaign.units,
      campaignId: campaign.id,
      numbers: campaign.numbers,
      slug: campaign.slug,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .innerJoin(campaign, eq(campaign.id, article.campaignId))
    .where(inArray(test.id, [...ids]))
    .orderBy(desc(test.id))
  const found = []
  for (const id of ids) {
    const row = rows.find(r => r.id === id)
    const standing = row ? await currentResults(db, id) : null
    if (!row || !standing) continue
    const predicted = await predictionsOf(db, id)
    const { articleOwn, ...about } = row
    found.push({
      ...about,
      own: ownOf(articleOwn, standing.reduction),
      cause: standing.cause,
      validity: standing.validity,
      zero: zeroOf(families[row.family], standing.reduction.settings),
      results: standing.results,
      figures: Object.fromEntries(
        Object.entries((await figuresOf(db, [standing.reduction.id])).get(standing.reduction.id) ?? {})
          .filter(([, f]) => !f.field && !f.polar)
          .map(([name, f]) => [
            name,
            { x: f.x, y: f.y, series: f.series.filter(s => s.style === 'measured' || s.style === 'points') },
          ]),
      ),
      predictions: predicted.map(p => ({
        id: p.id,
        source: p.source,
        method: p.method,
        quantity: p.quantity,
        value: p.value,
        u: p.u ?? 0,
        k: p.k,
        bound: p.bound,
        config: p.config,
        isOfAnother: !speaksOf(p.config, families[row.family] ?? {}, standing.reduction.settings),
        curve: p.curve,
      })),
      places: placesCompared(
        predicted.map(p => ({ by: p.source, place: p.place, mode: p.mode })),
        { cause: standing.cause, place: standing.judgement?.place ?? '', mode: standing.judgement?.mode ?? '' },
      ).filter((p, i, all) => all.findIndex(o => o.by === p.by && o.place === p.place && o.mode === p.mode) === i),
      failed: { place: standing.judgement?.place ?? '', mode: standing.judgement?.mode ?? '' },
      redundancy: (await evidenceOf(db, id)).redundancy,
    })
  }
  return found
}

import {
  decide,
  families,
  isCounted,
  outlineOf,
  placesCompared,
  placesRight,
  resultsOf,
  speaksOf,
  type DeclaredOwn,
  type ResultDeclaration,
  type Verdict,
} from '@hypomet/core'
import { asc, eq, isNotNull, and, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import {
  article,
  campaign,
  decision,
  firing,
  judgement,
  lesson,
  prediction,
  revision,
  test,
  type limit,
} from '../schema'
import { currentResultsOf, type CurrentResults } from '../results/currentResults'
import { grouped, TestSet } from '../tests/testSet'

/** What a campaign's tests said of its predictions, its decisions and its lessons. Nobody is named. */
export async function learningOf(db: Db, slug: string) {
  const [c] = await db
    .select({
      id: campaign.id,
      title: campaign.title,
      slug: campaign.slug,
      system: campaign.system,
      units: campaign.units,
      numbers: campaign.numbers,
      currency: campaign.currency,
    })
    .from(campaign)
    .where(eq(campaign.slug, slug))
  if (!c) throw notFound('campaign', slug)
  const tests = await db
    .select({
      id: test.id,
      title: test.title,
      family: test.family,
      cost: test.cost,
      revisionId: revision.id,
      revision: revision.label,
      articleId: article.id,
      article: article.name,
      own: article.own,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(eq(article.campaignId, c.id))
    .orderBy(asc(test.id))
  const set = new TestSet(db, { campaignId: c.id })
  const all = await currentResultsOf(set)
  const standing = new Map([...all].filter(([, s]) => s.validity !== 'invalid'))
  return {
    campaign: c,
    predictions: await foretold(db, tests, standing),
    places: await placesForetold(db, standing),
    decisions: await followed(db, set, tests, standing),
    lessons: await lessonsOf(db, tests),
  }
}

type TestRow = {
  id: number
  title: string
  family: string
  cost: number | null
  revisionId: number
  revision: string
  articleId: number
  article: string
  own: DeclaredOwn[]
}

async function foretold(db: Db, tests: readonly TestRow[], standing: ReadonlyMap<number, CurrentResults>) {
  const ids = [...standing.keys()]
  const locked =
    ids.length === 0
      ? []
      : await db
          .select()
          .from(prediction)
          .where(and(inArray(prediction.testId, ids), isNotNull(prediction.lockedAt)))
  return locked.flatMap(p => {
    const t = tests.find(x => x.id === p.testId)!
    const type = resultsOf(t.family, t.own)[p.quantity]
    const result = standing.get(t.id)!.results[p.quantity]
    if (p.value === null || p.value === 0 || !type || result?.value == null) return []
    if (!speaksOf(p.config, families[t.family] ?? {}, standing.get(t.id)!.reduction.settings)) return []
    return [
      {
        id: p.id,
        testId: t.id,
        test: `${t.article} ${t.revision} · ${t.title}`,
        family: outlineOf(t.family)!.title,
        method: p.method,
        source: p.source,
        quantity: type.label,
        kind: type.kind,
        predicted: { value: p.value, u: p.u ?? 0, k: p.k, bound: p.bound },
        measured: result,
        isExact: result.bound === 'exact',
      },
    ]
  })
}

/** Of each source: how often it named the place at which it failed. */
async function placesForetold(db: Db, standing: ReadonlyMap<number, CurrentResults>) {
  const failed = [...standing].filter(([, s]) => s.judgement?.cause === 'article' && s.judgement.place !== '')
  if (failed.length === 0) return []
  const said = await db
    .select()
    .from(prediction)
    .where(
      and(
        inArray(
          prediction.testId,
          failed.map(([id]) => id),
        ),
        isNotNull(prediction.lockedAt),
      ),
    )
  const compared = failed.map(([id, { judgement: j }]) => {
    const own = said.filter(p => p.testId === id).map(p => ({ by: p.source, place: p.place, mode: p.mode }))
    const once = own.filter((p, i) => own.findIndex(o => o.by === p.by && o.place === p.place) === i)
    return placesCompared(once, j!)
  })
  return placesRight(compared)
}

/** Each decision: what its revision was to do and did, limit by limit. */
async function followed(
  db: Db,
  set: TestSet,
  tests: readonly TestRow[],
  standing: ReadonlyMap<number, CurrentResults>,
) {
  const rows = await db
    .select()
    .from(decision)
    .where(
      inArray(
        decision.testId,
        tests.map(t => t.id),
      ),
    )
    .orderBy(asc(decision.id))
  const revisions = await set.revisions()
  const inForce = grouped(
    (await set.limits()).filter(l => l.state === 'in-force'),
    l => l.articleId,
  )
  return rows.map(d => {
    const from = tests.find(t => t.id === d.testId)!
    const after = tests.findLast(t => t.revisionId === d.revisionId && standing.has(t.id))
    const [before, now] = [standing.get(d.testId), after ? standing.get(after.id) : undefined]
    const declared = resultsOf(from.family, from.own)
    return {
      id: d.id,
      article: from.article,
      articleId: from.articleId,
      from: from.revision,
      to: revisions.get(d.revisionId)?.label ?? null,
      title: d.chosen.title,
      reasons: d.reasons,
      testId: d.testId,
      afterId: after?.id ?? null,
      limits: (inForce.get(from.articleId) ?? []).flatMap(l => {
        const predicted = d.chosen.predictions[l.quantity]
        const type = declared[l.quantity]
        if (!predicted || !type) return []
        return [
          {
            id: l.id,
            name: l.name,
            kind: type.kind,
            before: verdictOf(before, l, type),
            predicted,
            after: verdictOf(now, l, type),
            measured: now?.results[l.quantity] ?? null,
          },
        ]
      }),
    }
  })
}

function verdictOf(
  s: CurrentResults | undefined,
  l: typeof limit.$inferSelect,
  type: ResultDeclaration,
): Verdict | null {
  const result = s?.results[l.quantity]
  return result ? decide(result, l.comparator, l.value, 'guarded', isCounted(type)).verdict : null
}

/**
 * Lessons that fired on the campaign's plans: how they were answered, and what became of the tests that took them or
 * did not.
 */
async function lessonsOf(db: Db, tests: readonly TestRow[]) {
  const ids = tests.map(t => t.id)
  const rows =
    ids.length === 0
      ? []
      : await db
          .select({ firing, title: lesson.title, lessonId: lesson.id })
          .from(firing)
          .innerJoin(lesson, eq(lesson.id, firing.lessonId))
          .where(inArray(firing.testId, ids))
  const judged =
    ids.length === 0
      ? []
      : await db
          .select({ testId: judgement.testId, cause: judgement.cause, validity: judgement.validity })
          .from(judgement)
          .where(inArray(judgement.testId, ids))
          .orderBy(asc(judgement.id))
  const causeOf = new Map(judged.map(j => [j.testId, j]))
  return [...new Set(rows.map(r => r.lessonId))]
    .map(id => {
      const mine = rows.filter(r => r.lessonId === id)
      const ended = (answer: string, isSpoilt: boolean) =>
        mine.filter(
          r =>
            r.firing.answer === answer &&
            (j =>
              j !== undefined &&
              (j.validity === 'invalid' || ['fixture', 'instrumentation', 'procedure'].includes(j.cause)) === isSpoilt)(
              causeOf.get(r.firing.testId),
            ),
        ).length
      const sound = mine
        .filter(r => r.firing.answer === 'applied' && ended('applied', false) > 0)
        .map(r => tests.find(t => t.id === r.firing.testId)?.cost ?? 0)
      return {
        id,
        title: mine[0]!.title,
        fired: mine.length,
        applied: mine.filter(r => r.firing.answer === 'applied').length,
        doesNotApply: mine.filter(r => r.firing.answer === 'does-not-apply').length,
        riskAccepted: mine.filter(r => r.firing.answer === 'risk-accepted').length,
        unanswered: mine.filter(r => r.firing.answer === null).length,
        soundAfter: ended('applied', false),
        spoiltAfter: ended('applied', true),
        spoiltWithout: ended('risk-accepted', true) + ended('does-not-apply', true),
        /** Cost of the tests that took it and ended by their article: what a spoilt one would have cost again. */
        guarded: sound.reduce((s, c) => s + c, 0),
      }
    })
    .toSorted((a, b) => b.fired - a.fired)
}

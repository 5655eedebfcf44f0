import type { MethodOutput } from '@hypomet/core'
import { and, asc, desc, eq, getTableColumns, inArray, isNotNull, isNull, max, or, sql, type SQL } from 'drizzle-orm'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import type { Db } from '../connection/client'
import type { RowsNow } from '../connection/keptRows'
import { manyRows, type Columns } from '../connection/manyRows'
import { listSensors, readingsOf, sensorsIn } from '../registers/inventory'
import {
  article,
  attachment,
  campaign,
  dataset,
  firing,
  judgement,
  lesson,
  limit,
  planDigest,
  prediction,
  readyMark,
  reduction,
  revision,
  run,
  test,
} from '../schema'

/** Which tests a page speaks of. */
export type Scope = { campaignId: number } | { articleId: number } | { testId: number } | 'all'

const ordered = <T extends { id: number }>(rows: T[]): T[] => rows.sort((a, b) => a.id - b.id)
const byId = <T extends { id: number }>(rows: readonly T[]): Map<number, T> => new Map(rows.map(r => [r.id, r]))

export function grouped<T>(rows: readonly T[], key: (row: T) => number): Map<number, T[]> {
  const groups = new Map<number, T[]>()
  for (const row of rows) {
    const group = groups.get(key(row))
    if (group) group.push(row)
    else groups.set(key(row), [row])
  }
  return groups
}

/** What is asked twice is read once. */
function once<T>(read: () => PromiseLike<T>): () => Promise<T> {
  let kept: Promise<T> | undefined
  return () => (kept ??= Promise.resolve(read()))
}

type TestRow = typeof test.$inferSelect & {
  /** The plan as it is stored. */
  readonly planText: string | null
  /** Sensors that the plan's channels name. */
  readonly sensorIds: readonly number[]
}
/** Of plans that were read before, by test: most are the same the next time. */
const sensorsKnown = new Map<number, { text: string; ids: readonly number[] }>()

/** A test whose plan is parsed when somebody reads it; its text and sensors stay out of answers. */
function withPlan({ planText, ...row }: Omit<TestRow, 'plan' | 'sensorIds'>): TestRow {
  let plan: TestRow['plan'] | undefined
  const read = () => (plan ??= planText === null ? null : (JSON.parse(planText) as TestRow['plan']))
  const sensorIds = () => {
    if (planText === null) return []
    const known = sensorsKnown.get(row.id)
    if (known?.text === planText) return known.ids
    const ids = sensorsIn({ plan: read() })
    sensorsKnown.set(row.id, { text: planText, ids })
    return ids
  }
  return Object.defineProperties(row, {
    plan: { get: read, enumerable: true },
    planText: { value: planText },
    sensorIds: { get: sensorIds },
  }) as TestRow
}

/**
 * Rows behind a set of tests: one query a table, whatever the number of tests, and only for what is asked. Articles,
 * revisions and limits are those of the articles that the tests are of.
 */
export class TestSet {
  private readonly ofArticle: SQL | undefined
  private readonly ofTest: SQL | undefined

  constructor(
    readonly db: Db,
    readonly scope: Scope,
    private readonly kept?: RowsNow,
  ) {
    if (scope === 'all') return
    if ('campaignId' in scope) this.ofArticle = eq(article.campaignId, scope.campaignId)
    else if ('articleId' in scope) this.ofArticle = eq(article.id, scope.articleId)
    else {
      const own = db
        .select({ id: revision.articleId })
        .from(test)
        .innerJoin(revision, eq(revision.id, test.revisionId))
        .where(eq(test.id, scope.testId))
      this.ofArticle = inArray(article.id, own)
      this.ofTest = eq(test.id, scope.testId)
    }
  }

  private many<C extends Columns>(table: SQLiteTable, columns: C, where: SQL | undefined) {
    return manyRows(this.db, table, columns, where, this.kept)
  }
  private articleIds() {
    return this.db.select({ id: article.id }).from(article).where(this.ofArticle)
  }
  private revisionIds() {
    return this.db.select({ id: revision.id }).from(revision).where(inArray(revision.articleId, this.articleIds()))
  }
  private testIds() {
    return this.db.select({ id: test.id }).from(test).where(this.testsAsked())
  }
  private testsAsked(): SQL | undefined {
    return this.scope === 'all' ? undefined : (this.ofTest ?? inArray(test.revisionId, this.revisionIds()))
  }

  private readonly articlesInCampaigns = once(() =>
    this.db
      .select({ article, campaign })
      .from(campaign)
      .leftJoin(article, and(eq(article.campaignId, campaign.id), this.ofArticle))
      .orderBy(asc(campaign.id), asc(article.id)),
  )
  /** All campaigns, whatever the scope. */
  readonly campaigns = once(async () => byId((await this.articlesInCampaigns()).map(r => r.campaign)))
  readonly articles = once(async () =>
    byId((await this.articlesInCampaigns()).flatMap(r => (r.article ? [r.article] : []))),
  )

  readonly revisions = once(async () =>
    byId(ordered(await this.many(revision, getTableColumns(revision), inArray(revision.articleId, this.articleIds())))),
  )

  readonly limits = once(async () =>
    ordered(await this.many(limit, getTableColumns(limit), inArray(limit.articleId, this.articleIds()))),
  )

  readonly tests = once(async () => {
    const { plan, ...columns } = getTableColumns(test)
    // As its text: overviews compare plans with what they know of them, and read few.
    const rows = await this.many(test, { ...columns, planText: sql<string | null>`${plan}` }, this.testsAsked())
    return byId(ordered(rows.map(withPlan)))
  })

  /** Everything predicted of a single test's revision, its locked copies and its curves. */
  readonly predictions = once(() =>
    this.db
      .select()
      .from(prediction)
      .where(
        inArray(prediction.revisionId, this.db.select({ id: test.revisionId }).from(test).where(this.testsAsked())),
      )
      .orderBy(asc(prediction.id)),
  )

  /** What is expected of the revisions, whoever said it; curves are asked for apart. */
  readonly expected = once(async () =>
    this.ofTest ? (await this.predictions()).filter(p => p.copyOfId === null) : this.slimPredictions(),
  )
  private async slimPredictions() {
    const asked = and(inArray(prediction.revisionId, this.revisionIds()), isNull(prediction.copyOfId))
    return ordered(await this.many(prediction, EXPECTED, asked))
  }

  /** By test, newest last; without the memory of their rigs. */
  readonly runs = once(async () => {
    return grouped(ordered(await this.many(run, RUN, inArray(run.testId, this.testIds()))), r => r.testId)
  })

  /** Records that can be read, oldest first; without how far their imports came. */
  readonly datasets = once(async () => {
    const { importState: _, ...columns } = getTableColumns(dataset)
    return this.db
      .select(columns)
      .from(dataset)
      .where(and(inArray(dataset.testId, this.testIds()), eq(dataset.status, 'ready')))
      .orderBy(asc(dataset.id))
  })

  /** The main record that reductions read, the newest, by test. */
  readonly records = once(async () => {
    const rows = this.ofTest
      ? (await this.datasets()).filter(d => d.joinsId === null)
      : ordered(
          await this.many(
            dataset,
            { id: dataset.id, testId: dataset.testId },
            and(inArray(dataset.testId, this.testIds()), eq(dataset.status, 'ready'), isNull(dataset.joinsId)),
          ),
        )
    return new Map(rows.map(r => [r.testId, r.id]))
  })

  /** Reductions of a single test, newest first; without their figures, which are long. */
  readonly reductions = once(async () => {
    const { figures: _, ...columns } = getTableColumns(reduction)
    return this.db
      .select(columns)
      .from(reduction)
      .where(inArray(reduction.testId, this.testIds()))
      .orderBy(desc(reduction.id))
  })

  /** Results of the newest reduction, by test. */
  readonly reduced = once(async () => {
    const rows = this.ofTest
      ? (await this.reductions()).slice(0, 1).map(r => ({ ...r, results: r.output.results, own: r.output.own }))
      : await this.newestResults()
    return new Map(
      rows.map(({ id, testId, settings, results, own, createdAt }) => [
        testId,
        { id, settings, results, own: own ?? undefined, createdAt },
      ]),
    )
  })
  private async newestResults() {
    const newest = this.db
      .select({ id: max(reduction.id) })
      .from(reduction)
      .where(inArray(reduction.testId, this.testIds()))
      .groupBy(reduction.testId)
    const columns = {
      id: reduction.id,
      testId: reduction.testId,
      settings: reduction.settings,
      createdAt: reduction.createdAt,
      results: sql<StoredResults>`json(json_extract(${reduction.output}, '$.results'))`,
      own: sql<MethodOutput['own'] | null>`json(json_extract(${reduction.output}, '$.own'))`,
    }
    return this.many(reduction, columns, inArray(reduction.id, newest))
  }

  /** The test that a reduction is of, for all reductions of these tests. */
  readonly testOfReduction = once(async () => {
    const rows = this.ofTest
      ? await this.reductions()
      : await this.many(
          reduction,
          { id: reduction.id, testId: reduction.testId },
          inArray(reduction.testId, this.testIds()),
        )
    return new Map(rows.map(r => [r.id, r.testId]))
  })

  /** The newest judgement, by test. */
  readonly judged = once(async () => {
    const newest = this.db
      .select({ id: max(judgement.id) })
      .from(judgement)
      .where(inArray(judgement.testId, this.testIds()))
      .groupBy(judgement.testId)
    const rows = await this.many(judgement, getTableColumns(judgement), inArray(judgement.id, newest))
    return new Map(rows.map(r => [r.testId, r]))
  })

  /** What was ticked, read, overridden or signed, by test. */
  readonly marks = once(async () => {
    const asked = inArray(readyMark.testId, this.testIds())
    return grouped(ordered(await this.many(readyMark, getTableColumns(readyMark), asked)), m => m.testId)
  })

  /** Lessons that fired, by test, unanswered ones first. */
  readonly firings = once(async () => {
    const rows = await this.db
      .select({ firing, lesson })
      .from(firing)
      .innerJoin(lesson, eq(lesson.id, firing.lessonId))
      .where(inArray(firing.testId, this.testIds()))
      .orderBy(asc(isNotNull(firing.answer)), asc(firing.id))
    return grouped(
      rows.map(r => ({ ...r.firing, lesson: r.lesson })),
      f => f.testId,
    )
  })

  private readonly attached = once(() =>
    this.db
      .select({
        id: attachment.id,
        entity: attachment.entity,
        entityId: attachment.entityId,
        tag: attachment.tag,
        mime: attachment.mime,
      })
      .from(attachment)
      .where(
        and(
          isNull(attachment.removedAt),
          or(
            and(eq(attachment.entity, 'test'), inArray(attachment.entityId, this.testIds())),
            and(eq(attachment.entity, 'article'), inArray(attachment.entityId, this.articleIds())),
          ),
        ),
      )
      .orderBy(asc(attachment.id)),
  )

  /** Tags of the pictures that tests have, by test, each once. */
  readonly photos = once(async () => {
    const tags = new Map<number, Set<string>>()
    for (const a of await this.attached()) {
      if (a.entity !== 'test' || a.tag === '') continue
      tags.set(a.entityId, (tags.get(a.entityId) ?? new Set()).add(a.tag))
    }
    return tags
  })

  /** The first picture of each article. */
  readonly articlePhotos = once(async () => {
    const pictures = (await this.attached()).filter(a => a.entity === 'article' && a.mime.startsWith('image/'))
    return new Map(pictures.toReversed().map(a => [a.entityId, a.id]))
  })

  readonly sensors = once(() => listSensors(this.db))
  /** Of all sensors; of one test alone, those of the sensors that it plans with. */
  readonly readings = once(async () =>
    this.ofTest ? readingsOf(this.db, [...(await this.tests()).values()].flatMap(sensorsIn)) : readingsOf(this.db),
  )

  /** As they were last stored; a single test's is worked out. */
  readonly digests = once(async () => {
    if (this.ofTest) return new Map<number, typeof planDigest.$inferSelect>()
    const asked = inArray(planDigest.testId, this.testIds())
    const rows = await this.many(planDigest, getTableColumns(planDigest), asked)
    return new Map(rows.map(r => [r.testId, r]))
  })
}

export type Firing = typeof firing.$inferSelect & { lesson: typeof lesson.$inferSelect }

type StoredResults = (typeof reduction.$inferSelect)['output']['results']

const EXPECTED = {
  id: prediction.id,
  revisionId: prediction.revisionId,
  testId: prediction.testId,
  quantity: prediction.quantity,
  value: prediction.value,
  u: prediction.u,
  k: prediction.k,
  bound: prediction.bound,
  source: prediction.source,
  method: prediction.method,
  lockedAt: prediction.lockedAt,
  place: prediction.place,
  mode: prediction.mode,
}

/** All of a run but the memory of its rig. */
const RUN = {
  id: run.id,
  testId: run.testId,
  datasetId: run.datasetId,
  source: run.source,
  setUp: run.setUp,
  controls: run.controls,
  status: run.status,
  pace: run.pace,
  seed: run.seed,
  end: run.end,
  by: run.by,
  startedAt: run.startedAt,
  endedAt: run.endedAt,
  broke: run.broke,
  /** s on its clock, of the last that is stored. */
  storedTo: sql<number | null>`json_extract(${run.rigState}, '$.t')`,
}

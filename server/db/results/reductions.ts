import { createHash } from 'node:crypto'
import { HypometError, planWithFacts, type CallOut, type PlanView, type Strike } from '@hypomet/core'
import { and, asc, desc, eq, isNotNull } from 'drizzle-orm'
import type { ReducePayload, Reduced } from '../../jobs/handlers'
import { digestOf } from './digest'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { mainRecord, recordsTogether } from '../records/clocks'
import { channelsOfRecords } from '../records/channels'
import { strikesOf } from '../records/onMainClock'
import { symbolsTogether } from '../records/symbols'
import { article, reduction, revision, run, runEvent, test, type ReductionInput } from '../schema'
import { TestSet } from '../tests/testSet'
import { planViewOf } from '../tests/viewedPlan'
import { listSensors } from '../registers/inventory'
import { SOFTWARE_VERSION } from '../../version'

const OUTCOME_OF_END: Record<string, string> = { 'article broke': 'article', 'fixture gave way': 'fixture' }

/** A reduction's payload, with what is kept of its inputs. */
export type ReductionAsked = ReducePayload & { sha256: string; inputs: ReductionInput[] }

/** What a reduction of a test's newest data needs. */
export async function reductionInput(
  db: Db,
  testId: number,
  settings: Record<string, unknown> | null,
): Promise<ReductionAsked> {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  const data = await mainRecord(db, testId)
  if (!data) throw new HypometError('no-data', 'There are no readings yet: run the test or import a file.')
  const [r] = await db.select().from(run).where(eq(run.datasetId, data.id)).limit(1)
  const specifications = new Map((await listSensors(db)).map(s => [s.id, s.si]))
  const together = await recordsTogether(db, data.id)
  const channels = await channelsOfRecords(
    db,
    together.map(d => d.id),
  )
  const struck = await strikesOf(db, data.id)
  const inputs = together.map(d => ({
    datasetId: d.id,
    sha256: d.sha256!,
    clockOffset: d.clockOffset,
    channels: d.channelMap,
    ...(d.id === data.id && struck.length > 0 ? { struck } : {}),
  }))
  const view = await planViewOf(db, testId)
  const symbols = symbolsTogether(channels)
  const sensors = Object.fromEntries(
    channels.flatMap(c => {
      const si = c.sensorId === null ? undefined : specifications.get(c.sensorId)
      // What no reduction reads by its role is called by its symbol.
      return si ? [[c.used ? c.role : (symbols.get(c.id) ?? c.role), si]] : []
    }),
  )
  const [rev] = await db
    .select({ label: revision.label, facts: revision.facts, own: article.own })
    .from(revision)
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(eq(revision.id, t.revisionId))
  return {
    datasetId: data.id,
    family: t.family,
    settings,
    plan: planWithFacts(t.family, t.plan, rev!.facts).plan,
    facts: rev!.facts,
    view,
    name: `Revision ${rev!.label}`,
    own: rev!.own,
    outcome: OUTCOME_OF_END[r?.end ?? ''] ?? 'no-failure',
    ...(r?.source === 'crew' ? { calls: await callOutsOf(db, r.id, struck, view) } : {}),
    peak: r?.broke?.peak ?? null,
    sensors,
    inputs,
    sha256:
      together.length === 1 && struck.length === 0
        ? data.sha256!
        : createHash('sha256')
            .update(JSON.stringify(inputs.map(({ sha256, clockOffset, struck }) => ({ sha256, clockOffset, struck }))))
            .digest('hex'),
  }
}

/** What people read in a run of theirs, in order, what was struck out put right; words have no channel. */
async function callOutsOf(db: Db, runId: number, struck: readonly Strike[], view: PlanView | null): Promise<CallOut[]> {
  const rows = await db
    .select({ t: runEvent.t, load: runEvent.value, reading: runEvent.reading })
    .from(runEvent)
    .where(and(eq(runEvent.runId, runId), eq(runEvent.kind, 'call-out'), isNotNull(runEvent.role)))
    .orderBy(asc(runEvent.id))
  const right = (role: string | undefined, t: number, said: number | null) =>
    struck.find(s => s.role === role && s.from === t)?.value ?? said
  return rows.map(r => ({
    t: r.t,
    load: right(view?.commanded.role, r.t, r.load),
    reading: right(view?.read.role, r.t, r.reading),
  }))
}

/** The newest kept reduction of a test: its settings, and the record that it is of. */
export async function keptOf(db: Db, testId: number) {
  const [kept] = await db
    .select({ settings: reduction.settings, datasetId: reduction.datasetId })
    .from(reduction)
    .where(eq(reduction.testId, testId))
    .orderBy(desc(reduction.id))
    .limit(1)
  return kept ?? null
}

/** Its settings alone; null before there is one. */
export const keptSettings = async (db: Db, testId: number): Promise<Record<string, unknown> | null> =>
  (await keptOf(db, testId))?.settings ?? null

/** Stores a reduction beside the ones it supersedes. The output's hash lets anyone check that it recomputes. */
export function storeReduction(
  database: Database,
  by: string,
  testId: number,
  input: ReductionAsked,
  reduced: Reduced,
  /** Checks that failed and that somebody looked at. */
  looked: string[] = [],
) {
  return database.write(async db => {
    const [before] = await db
      .select({ id: reduction.id })
      .from(reduction)
      .where(eq(reduction.testId, testId))
      .orderBy(desc(reduction.id))
      .limit(1)
    const [made] = await db
      .insert(reduction)
      .values({
        testId,
        datasetId: input.datasetId,
        family: input.family,
        methodVersion: reduced.output.version,
        softwareVersion: SOFTWARE_VERSION,
        settings: reduced.settings,
        sensors: input.sensors,
        inputSha256: input.sha256,
        inputs: input.inputs,
        output: reduced.output,
        figures: reduced.figures,
        outputSha256: digestOf(reduced.output),
        supersedesId: before?.id ?? null,
        by,
        createdAt: new Date().toISOString(),
      })
      .returning()
    await audit(db, {
      who: by,
      what: 'reduce',
      entity: 'test',
      entityId: testId,
      before: before ?? null,
      after: {
        reductionId: made!.id,
        settings: reduced.settings,
        outputSha256: made!.outputSha256,
        ...(looked.length > 0 ? { looked } : {}),
      },
    })
    return made!
  })
}

/** Other tests of the same article and kind that have a record: what settings may be carried over to. */
export async function twinsOf(db: Db, testId: number) {
  const [own] = await db
    .select({ articleId: revision.articleId, family: test.family })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .where(eq(test.id, testId))
  if (!own) throw notFound('test', testId)
  const set = new TestSet(db, { articleId: own.articleId })
  const [revisions, records, reduced] = [await set.revisions(), await set.records(), await set.reduced()]
  return [...(await set.tests()).values()]
    .filter(t => t.family === own.family && t.id !== testId && records.has(t.id))
    .map(t => ({
      id: t.id,
      title: t.title,
      revision: revisions.get(t.revisionId)!.label,
      keptAt: reduced.get(t.id)?.createdAt ?? null,
    }))
}

import {
  combine,
  HypometError,
  namesIn,
  parseExpression,
  preferenceOf,
  sensorBudget,
  zeroWindow,
  type SensorSpecification,
  type UnitPreference,
} from '@hypomet/core'
import { asc, desc, eq, inArray, or } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { recordsTogether } from './clocks'
import { notFound } from '../connection/notFound'
import { converted } from './packedChunk'
import { deleteSamples, isStrain } from './samples'
import {
  article,
  campaign,
  channel,
  channelPair,
  chunk,
  dataset,
  judgement,
  reduction,
  revision,
  run,
  runEvent,
  test,
} from '../schema'
import { plannedPlaces, rolesToGive } from './datasets'
import { saidOf } from './said'
import { namesTogether, symbolsTogether } from './symbols'
import { listSensors } from '../registers/inventory'
import { hasTargets } from './targets'

/**
 * The records of a run with their channels, what is wrong with them, and their extremes: all that a record's page
 * lists.
 */
export async function recordPage(db: Db, datasetId: number) {
  const together = await recordsTogether(db, datasetId)
  const main = together[0]!
  const ids = together.map(d => d.id)
  const [data] = await db
    .select({
      testId: test.id,
      testTitle: test.title,
      articleName: article.name,
      revision: revision.label,
      slug: campaign.slug,
      campaign: campaign.title,
      campaignId: campaign.id,
      numbers: campaign.numbers,
      system: campaign.system,
      units: campaign.units,
    })
    .from(test)
    .innerJoin(revision, eq(test.revisionId, revision.id))
    .innerJoin(article, eq(revision.articleId, article.id))
    .innerJoin(campaign, eq(article.campaignId, campaign.id))
    .where(eq(test.id, main.testId))
  const rows = await db
    .select({
      id: channel.id,
      datasetId: channel.datasetId,
      role: channel.role,
      name: channel.name,
      symbol: channel.symbol,
      used: channel.used,
      unit: channel.unit,
      conversion: channel.conversion,
      expression: channel.expression,
      health: channel.health,
      min: channel.min,
      max: channel.max,
      gaps: channel.gaps,
    })
    .from(channel)
    .where(inArray(channel.datasetId, ids))
    .orderBy(asc(channel.id))
  const symbols = symbolsTogether(rows)
  const places = await plannedPlaces(db, main.testId)
  const channels = rows.map(({ conversion, min, max, ...c }) => {
    const [a, b] = [min, max].map(v => (v === null ? null : converted(Float64Array.of(v), conversion)[0]!)) as [
      number | null,
      number | null,
    ]
    return {
      ...c,
      said: saidOf(
        { name: c.name, conversion },
        together.find(d => d.id === c.datasetId),
      ),
      symbol: symbols.get(c.id)!,
      isStrain: isStrain({ unit: c.unit, conversion }),
      x: (c.used ? places.get(c.role) : undefined) ?? null,
      min: a !== null && b !== null ? Math.min(a, b) : a,
      max: a !== null && b !== null ? Math.max(a, b) : b,
    }
  })
  const clocks = new Map(channels.filter(c => c.role === 't').map(c => [c.datasetId, c]))
  return {
    ...data!,
    records: together.map(({ importState: _, channelMap, ...d }) => ({
      ...d,
      /** Its column of time, where its file has one. */
      clock: channelMap?.['t'] ?? null,
      from: clocks.get(d.id)?.min ?? 0,
      to: clocks.get(d.id)?.max ?? 0,
    })),
    from: Math.min(...[...clocks.values()].map(c => c.min ?? 0)),
    to: Math.max(...[...clocks.values()].map(c => c.max ?? 0)),
    channels: channels.filter(c => c.role !== 't'),
    hasTargets: hasTargets(rows),
    roles: await rolesToGive(db, main.testId),
    pairs: await db.select().from(channelPair).where(eq(channelPair.datasetId, main.id)).orderBy(asc(channelPair.id)),
    ...(await landmarks(db, main.id)),
  }
}

/** What a test's campaign writes its numbers in. */
export async function preferenceOfTest(db: Db, testId: number): Promise<UnitPreference> {
  const [c] = await db
    .select({ system: campaign.system, units: campaign.units })
    .from(test)
    .innerJoin(revision, eq(test.revisionId, revision.id))
    .innerJoin(article, eq(revision.articleId, article.id))
    .innerJoin(campaign, eq(article.campaignId, campaign.id))
    .where(eq(test.id, testId))
  return preferenceOf(c ?? { system: 'metric' })
}

/** Steps of the kept reduction and events of the run, for orientation. */
export async function landmarks(db: Db, datasetId: number) {
  const [kept] = await db
    .select({ output: reduction.output, settings: reduction.settings })
    .from(reduction)
    .where(eq(reduction.datasetId, datasetId))
    .orderBy(desc(reduction.id))
    .limit(1)
  const columns = kept?.output.tables['steps']?.columns as Record<string, (number | null)[]> | undefined
  const steps = (columns?.['start'] ?? []).flatMap((from, i) =>
    from === null || columns!['end']?.[i] == null ? [] : [{ from, to: columns!['end'][i]! }],
  )
  const events = await db
    .select({ t: runEvent.t, kind: runEvent.kind, note: runEvent.note })
    .from(runEvent)
    .innerJoin(run, eq(runEvent.runId, run.id))
    .where(eq(run.datasetId, datasetId))
    .orderBy(asc(runEvent.t))
  return {
    steps,
    /** s; where the kept reduction took its zero. */
    zero: kept ? zeroWindow(kept.settings) : null,
    events: events.filter(e => e.kind !== 'command'),
  }
}

/** Channels by their ids, in the order asked; each must be of the record named or of one that it is together with. */
export async function channelsOf(db: Db, datasetId: number, ids: number[]) {
  const together = (await recordsTogether(db, datasetId)).map(d => d.id)
  const rows = await db.select().from(channel).where(inArray(channel.id, ids))
  return ids.map(id => {
    const row = rows.find(r => r.id === id)
    if (!row || !together.includes(row.datasetId)) throw notFound('channel', id)
    return row
  })
}

/** Names of channels that are derived from some of these, and are none of them. */
async function derivedFrom(db: Db, datasetIds: number[], ids: number[]): Promise<string[]> {
  const rows = await db
    .select({
      id: channel.id,
      datasetId: channel.datasetId,
      role: channel.role,
      name: channel.name,
      symbol: channel.symbol,
      expression: channel.expression,
    })
    .from(channel)
    .where(inArray(channel.datasetId, datasetIds))
    .orderBy(asc(channel.id))
  const named = namesTogether(rows)
  const reads = (expression: string) => namesIn(parseExpression(expression)).flatMap(n => named.get(n)?.id ?? [])
  return rows
    .filter(r => r.expression !== null && !ids.includes(r.id) && reads(r.expression).some(id => ids.includes(id)))
    .map(r => r.name)
}

/** What rests on a record, and whether it may go. */
export async function dependentsOf(db: Db, datasetId: number) {
  const together = await recordsTogether(db, datasetId)
  const named = together.find(d => d.id === datasetId)!
  const isMain = named.joinsId === null
  const reductions = await db
    .select({ id: reduction.id, datasetId: reduction.datasetId, inputs: reduction.inputs })
    .from(reduction)
    .where(eq(reduction.testId, named.testId))
  const resting = reductions
    .filter(r => r.datasetId === datasetId || r.inputs?.some(i => i.datasetId === datasetId))
    .map(r => r.id)
  const judgements =
    resting.length === 0
      ? 0
      : (await db.select({ id: judgement.id }).from(judgement).where(inArray(judgement.reductionId, resting))).length
  const channels = await db
    .select({ id: channel.id, name: channel.name, expression: channel.expression })
    .from(channel)
    .where(eq(channel.datasetId, datasetId))
  const ids = channels.map(c => c.id)
  const pairs = (
    await db
      .select({ id: channelPair.id })
      .from(channelPair)
      .where(or(inArray(channelPair.a, ids), inArray(channelPair.b, ids)))
  ).length
  const users = isMain
    ? []
    : await derivedFrom(
        db,
        together.map(d => d.id),
        ids,
      )
  return {
    name: named.name,
    mayGo: resting.length === 0 && users.length === 0,
    users,
    reductions: resting.length,
    judgements,
    pairs,
    channels: channels.length,
    derived: channels.filter(c => c.expression !== null).map(c => c.name),
    joined: isMain ? together.slice(1).map(d => d.name) : [],
    runs: isMain ? (await db.select({ id: run.id }).from(run).where(eq(run.datasetId, datasetId))).length : 0,
  }
}

/**
 * Takes a record out: its channels, what was derived from them, the records that join it. The original file stays where
 * it is.
 *
 * @throws HypometError `rests-on-it` where kept results would no longer recompute
 */
export function deleteRecord(database: Database, by: string, datasetId: number) {
  return database.write(async db => {
    const { mayGo, users, reductions, judgements, ...what } = await dependentsOf(db, datasetId)
    if (users.length > 0)
      throw new HypometError('rests-on-it', `“${users[0]}” is derived from it; take that out first.`)
    const onThem =
      judgements === 0 ? '' : `, and ${judgements} ${judgements === 1 ? 'judgement' : 'judgements'} on them`
    if (!mayGo)
      throw new HypometError(
        'rests-on-it',
        `${reductions} kept ${reductions === 1 ? 'result rests' : 'results rest'} on this record${onThem}; ` +
          'they could no longer be recomputed.',
      )
    const together = await recordsTogether(db, datasetId)
    const going = together[0]!.id === datasetId ? together : together.filter(d => d.id === datasetId)
    for (const d of going.toReversed()) {
      const ids = db.select({ id: channel.id }).from(channel).where(eq(channel.datasetId, d.id))
      await db.delete(channelPair).where(or(inArray(channelPair.a, ids), inArray(channelPair.b, ids)))
      const runs = db.select({ id: run.id }).from(run).where(eq(run.datasetId, d.id))
      await db.delete(runEvent).where(inArray(runEvent.runId, runs))
      await db.delete(run).where(eq(run.datasetId, d.id))
      await deleteSamples(db, d.id)
      await db.delete(dataset).where(eq(dataset.id, d.id))
    }
    await audit(db, {
      who: by,
      what: 'delete',
      entity: 'dataset',
      entityId: datasetId,
      before: { ...what, sha256: going.map(d => d.sha256) },
    })
    return { testId: together[0]!.testId }
  })
}

/** Takes a derived channel out. @throws HypometError `not-derived`, `rests-on-it` */
export function deleteDerived(database: Database, by: string, channelId: number) {
  return database.write(async db => {
    const [c] = await db.select().from(channel).where(eq(channel.id, channelId))
    if (!c) throw notFound('channel', channelId)
    if (c.expression === null)
      throw new HypometError('not-derived', 'What was imported stays; only a derived channel can be taken out.')
    const together = await recordsTogether(db, c.datasetId)
    const users = await derivedFrom(
      db,
      together.map(d => d.id),
      [c.id],
    )
    if (users.length > 0) throw new HypometError('rests-on-it', `“${users[0]}” is derived from it.`)
    await db.delete(channelPair).where(or(eq(channelPair.a, channelId), eq(channelPair.b, channelId)))
    await db.delete(chunk).where(eq(chunk.channelId, channelId))
    await db.delete(channel).where(eq(channel.id, channelId))
    await audit(db, {
      who: by,
      what: 'delete',
      entity: 'channel',
      entityId: channelId,
      before: { name: c.name, expression: c.expression },
    })
  })
}

/** Two channels that ought to agree; how far apart they may be follows from their sensors where nothing is said. */
export function addPair(
  database: Database,
  by: string,
  datasetId: number,
  input: { a: number; b: number; tolerance: number | null },
) {
  return database.write(async db => {
    if (input.a === input.b) throw new HypometError('setting-range', 'A pair is of two channels.', { path: 'b' })
    const [a, b] = (await channelsOf(db, datasetId, [input.a, input.b])) as [
      typeof channel.$inferSelect,
      typeof channel.$inferSelect,
    ]
    if (a.unit !== b.unit)
      throw new HypometError(
        'unit-dimension',
        `“${a.name}” is in ${a.unit || 'no unit'}, “${b.name}” in ${b.unit || 'no unit'}; they cannot agree.`,
        { path: 'b' },
      )
    const tolerance = input.tolerance ?? (await combinedU(db, [a, b]))
    if (tolerance === null)
      throw new HypometError(
        'missing-setting',
        'Say how far apart they may be: not both have a sensor with a certificate.',
        { path: 'tolerance' },
      )
    const main = (await recordsTogether(db, datasetId))[0]!.id
    const [made] = await db
      .insert(channelPair)
      .values({ datasetId: main, a: a.id, b: b.id, tolerance, by, createdAt: new Date().toISOString() })
      .returning()
    await audit(db, { who: by, what: 'pair', entity: 'dataset', entityId: main, after: made })
    return made!
  })
}

async function combinedU(db: Db, pair: (typeof channel.$inferSelect)[]): Promise<number | null> {
  const sensors = new Map((await listSensors(db)).map(s => [s.id, s.si]))
  const parts = pair.map(c => {
    const si: SensorSpecification | undefined = c.sensorId === null ? undefined : sensors.get(c.sensorId)
    if (!si) return null
    const peak = Math.max(
      ...[c.min ?? 0, c.max ?? 0].map(v => Math.abs(converted(Float64Array.of(v), c.conversion)[0]!)),
    )
    const { u, k } = combine(sensorBudget(si, peak))
    return u * k
  })
  return parts.some(u => u === null || u === 0) ? null : Math.hypot(...(parts as number[]))
}

export function removePair(database: Database, by: string, pairId: number) {
  return database.write(async db => {
    const [pair] = await db.delete(channelPair).where(eq(channelPair.id, pairId)).returning()
    if (!pair) throw notFound('pair', pairId)
    await audit(db, { who: by, what: 'pair removed', entity: 'dataset', entityId: pair.datasetId, before: pair })
    return pair
  })
}

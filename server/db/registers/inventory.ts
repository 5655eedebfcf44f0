import { readTogether, strikesOf } from '../records/onMainClock'
import { sensorSpecificationOf, type SensorSpecification, localDay } from '@hypomet/core'
import { and, asc, desc, eq, inArray, isNotNull, notExists } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { converted } from '../records/packedChunk'
import { article, channel, dataset, revision, run, sensor, test } from '../schema'

/**
 * A specification as its register reads it; the same words are read once, for whole lists of sensors are read again and
 * again.
 */
export function readSpecification(s: { kind: string; specification: Record<string, unknown> }): SensorSpecification {
  const key = JSON.stringify([s.kind, s.specification])
  const known = specifications.get(key) ?? sensorSpecificationOf({ kind: s.kind, ...s.specification })
  if (specifications.size >= MOST_KNOWN) specifications.clear()
  specifications.set(key, known)
  return known
}
const MOST_KNOWN = 5000
const specifications = new Map<string, SensorSpecification>()

/** Full scale of the sensors behind a dataset's channels, SI, by role. */
export async function fullScales(db: Db, datasetId: number): Promise<Record<string, number>> {
  const rows = await db
    .select({ role: channel.role, kind: sensor.kind, specification: sensor.specification })
    .from(channel)
    .innerJoin(sensor, eq(channel.sensorId, sensor.id))
    .where(eq(channel.datasetId, datasetId))
  return Object.fromEntries(rows.map(r => [r.role, readSpecification(r).fullScale]))
}

/** All sensors, each with its specification in SI. */
export async function listSensors(db: Db) {
  return (await db.select().from(sensor).orderBy(asc(sensor.id))).map(s => ({ ...s, si: readSpecification(s) }))
}

/** What the checklist of a test must know of each sensor; its own readings are no hindrance to it. */
export function sensorsDue(
  sensors: readonly (typeof sensor.$inferSelect)[],
  readings: readonly SensorReading[],
  testId: number,
) {
  const beyond = beyondRange(readings.filter(r => r.testId !== testId))
  return Object.fromEntries(
    sensors.map(s => [
      s.id,
      { name: s.name, calibrationDue: s.calibrationDue, state: s.state, overRanged: beyond[s.id] ?? null },
    ]),
  )
}

/** Sensors that a test's channels name. */
export function sensorsIn({ plan }: Pick<typeof test.$inferSelect, 'plan'>): number[] {
  const channels = (plan?.['channels'] ?? []) as { sensorId?: number | null }[]
  return [...new Set(channels.flatMap(c => (c.sensorId == null ? [] : [c.sensorId])))]
}

export interface SensorUse {
  testId: number
  title: string
  role: string
  plannedOn: string | null
}

/** Tests that plan with a sensor and have not been run: where it is, or will be, by sensor. */
export async function plannedWith(db: Db): Promise<Record<number, SensorUse[]>> {
  const rows = await db
    .select({
      id: test.id,
      title: test.title,
      plan: test.plan,
      plannedOn: test.plannedOn,
      article: article.name,
      label: revision.label,
    })
    .from(test)
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(notExists(db.select({ id: run.id }).from(run).where(eq(run.testId, test.id))))
    .orderBy(asc(test.id))
  const uses: Record<number, SensorUse[]> = {}
  for (const t of rows)
    for (const c of (t.plan?.['channels'] ?? []) as { role: string; label: string; sensorId: number | null }[])
      if (c.sensorId !== null)
        (uses[c.sensorId] ??= []).push({
          testId: t.id,
          title: `${t.article} ${t.label}: ${t.title}`,
          role: c.label || c.role,
          plannedOn: t.plannedOn,
        })
  return uses
}

/** Largest reading of each channel that a sensor was behind, newest first. SI, as recorded. */
export async function readingsOf(db: Db, sensorIds?: readonly number[]) {
  const rows = await db
    .select({
      sensorId: sensor.id,
      kind: sensor.kind,
      specification: sensor.specification,
      calibratedOn: sensor.calibratedOn,
      datasetId: dataset.id,
      source: dataset.source,
      at: dataset.createdAt,
      testId: test.id,
      title: test.title,
      article: article.name,
      label: revision.label,
      name: channel.name,
      role: channel.role,
      min: channel.min,
      max: channel.max,
      conversion: channel.conversion,
    })
    .from(channel)
    .innerJoin(sensor, eq(sensor.id, channel.sensorId))
    .innerJoin(dataset, eq(dataset.id, channel.datasetId))
    .innerJoin(test, eq(test.id, dataset.testId))
    .innerJoin(revision, eq(revision.id, test.revisionId))
    .innerJoin(article, eq(article.id, revision.articleId))
    .where(
      and(
        isNotNull(channel.min),
        eq(dataset.status, 'ready'),
        sensorIds === undefined ? undefined : inArray(sensor.id, [...sensorIds]),
      ),
    )
    .orderBy(desc(dataset.id))
  const right = await rightPeaks(db, rows)
  return rows.map(r => {
    const largest = Math.max(...converted(Float64Array.of(r.min!, r.max!), r.conversion).map(Math.abs))
    const peak = right.get(`${r.datasetId} ${r.role}`) ?? largest
    const { fullScale } = readSpecification(r)
    return {
      sensorId: r.sensorId,
      calibratedOn: r.calibratedOn,
      datasetId: r.datasetId,
      at: r.at,
      testId: r.testId,
      test: `${r.article} ${r.label}: ${r.title}`,
      channel: r.name || r.role,
      peak,
      share: peak / fullScale,
    }
  })
}

/** Largest readings of channels that people read and that something was struck out of, by record and role. */
async function rightPeaks(
  db: Db,
  rows: readonly { datasetId: number; source: string; role: string }[],
): Promise<Map<string, number>> {
  const peaks = new Map<string, number>()
  for (const datasetId of new Set(rows.filter(r => r.source === 'crew').map(r => r.datasetId))) {
    const strikes = await strikesOf(db, datasetId)
    if (strikes.length === 0) continue
    const { columns } = await readTogether(db, datasetId)
    for (const { role } of strikes)
      peaks.set(
        `${datasetId} ${role}`,
        columns[role]!.reduce((m, v) => Math.max(m, Math.abs(v) || 0), 0),
      )
  }
  return peaks
}

export type SensorReading = Awaited<ReturnType<typeof readingsOf>>[number]

/** Sensors that read beyond their full scale since they were last calibrated, and where. */
export const overRangesOf = async (db: Db) => beyondRange(await readingsOf(db))

export function beyondRange(readings: readonly SensorReading[]): Record<number, { share: number; test: string }> {
  const beyond: Record<number, { share: number; test: string }> = {}
  for (const r of readings)
    if (r.share > 1 && (r.calibratedOn === null || localDay(r.at) >= r.calibratedOn))
      beyond[r.sensorId] ??= { share: r.share, test: r.test }
  return beyond
}

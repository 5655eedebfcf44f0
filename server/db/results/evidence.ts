import { dayText, nameAlone, QUESTIONS, type Evidence } from '@hypomet/core'
import { asc, desc, eq, inArray } from 'drizzle-orm'
import { recordsTogether } from '../records/clocks'
import type { Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { channel, channelPair, dataset, reduction, run, runEvent, sensor, test } from '../schema'

/** Warnings of reductions that say how far sensors can be trusted. */
const OF_SENSORS = ['low-range', 'near-full-scale', 'over-range', 'clipped']

/** What the record itself says to the questions of validity. */
export async function evidenceOf(db: Db, testId: number): Promise<Evidence> {
  const [own] = await db.select({ id: test.id }).from(test).where(eq(test.id, testId))
  if (!own) throw notFound('test', testId)
  const evidence = Object.fromEntries(QUESTIONS.map(q => [q.key, { against: [], for: [] }])) as unknown as Evidence
  const [main] = await db.select().from(dataset).where(eq(dataset.testId, testId)).orderBy(asc(dataset.id)).limit(1)
  const records = main ? await recordsTogether(db, main.id) : []
  const channels =
    records.length > 0
      ? await db
          .select()
          .from(channel)
          .where(
            inArray(
              channel.datasetId,
              records.map(d => d.id),
            ),
          )
      : []
  const [lastRun] = await db.select().from(run).where(eq(run.testId, testId)).orderBy(desc(run.id)).limit(1)
  await planned(db, evidence, lastRun)
  await redundancy(db, evidence, channels, records[0]?.id)
  await calibration(db, evidence, testId, channels, (lastRun?.startedAt ?? main?.createdAt ?? '').slice(0, 10))
  const others = channels.flatMap(c =>
    (c.health ?? []).filter(f => f.code !== 'parted').map(f => `${nameAlone(c.name || c.role)}: ${f.message}`),
  )
  evidence.record.against.push(...others, ...records.flatMap(d => d.warnings.map(w => w.message)))
  if (others.length === 0 && channels.length > 0)
    evidence.record.for.push(`${channels.length} channels, none with gaps, stillness or clipping found.`)
  return evidence
}

async function planned(db: Db, { planned: said }: Evidence, last: typeof run.$inferSelect | undefined): Promise<void> {
  if (!last) return
  const events = await db.select().from(runEvent).where(eq(runEvent.runId, last.id)).orderBy(asc(runEvent.id))
  const deviations = events.filter(e => e.kind === 'deviation' || e.kind === 'unplanned')
  said.against.push(
    ...deviations.map(e => `${e.t.toFixed(1)} s: ${e.note}`),
    ...(last.end && /abort|closed early|stopped/.test(last.end) ? [`The run was ${last.end}.`] : []),
  )
  said.for.push(
    ...events.filter(e => e.kind === 'readiness not recorded').map(e => `Readiness not recorded: ${e.note}.`),
  )
  if (deviations.length === 0)
    said.for.push(
      last.source === 'file'
        ? 'Imported from a file: its run was not watched here.'
        : `Run to “${last.end ?? last.status}” without a deviation.`,
    )
}

async function redundancy(
  db: Db,
  { redundancy: said }: Evidence,
  channels: (typeof channel.$inferSelect)[],
  main: number | undefined,
): Promise<void> {
  const pairs = main === undefined ? [] : await db.select().from(channelPair).where(eq(channelPair.datasetId, main))
  const nameOf = (id: number) => (c => nameAlone(c?.name || c?.role || String(id)))(channels.find(c => c.id === id))
  said.against.push(
    ...new Set(
      channels
        .filter(c => pairs.some(p => p.a === c.id))
        .flatMap(c =>
          (c.health ?? []).filter(f => f.code === 'parted').map(f => `${nameAlone(c.name || c.role)}: ${f.message}`),
        ),
    ),
  )
  const parted = new Set(channels.filter(c => (c.health ?? []).some(f => f.code === 'parted')).map(c => c.id))
  said.for.push(
    ...pairs.filter(p => !parted.has(p.a)).map(p => `${nameOf(p.a)} and ${nameOf(p.b)} agreed all through.`),
  )
  if (pairs.length === 0) said.for.push('There were no redundant channels.')
}

async function calibration(
  db: Db,
  { calibration: said }: Evidence,
  testId: number,
  channels: (typeof channel.$inferSelect)[],
  on: string,
): Promise<void> {
  const ids = [...new Set(channels.flatMap(c => c.sensorId ?? []))]
  const sensors = ids.length > 0 ? await db.select().from(sensor).where(inArray(sensor.id, ids)) : []
  for (const s of sensors) {
    if (s.calibrationDue && s.calibrationDue < on)
      said.against.push(`${s.name}: its calibration was due on ${dayText(s.calibrationDue)}.`)
    if (s.state === 'suspect') said.against.push(`${s.name} is suspect: ${s.note}`)
  }
  const [latest] = await db
    .select({ output: reduction.output })
    .from(reduction)
    .where(eq(reduction.testId, testId))
    .orderBy(desc(reduction.id))
    .limit(1)
  said.against.push(...(latest?.output.warnings ?? []).filter(w => OF_SENSORS.includes(w.code)).map(w => w.message))
  if (sensors.length > 0 && said.against.length === 0)
    said.for.push(`${sensors.length} sensors, all in calibration on ${dayText(on)}.`)
  if (sensors.length === 0) said.for.push('No channel names its sensor: nothing can be said of their calibration.')
}

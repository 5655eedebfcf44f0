import { HypometError, setPointsOf, siUnit, type Kind, type Plan, type PlanView, type RigState } from '@hypomet/core'
import { and, asc, eq, ne, notInArray, or } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Db } from '../connection/client'
import { channelsOfRecords } from '../records/channels'
import { recordedLength } from '../records/recorder'
import { addChannels } from '../records/samples'
import { dataset, run, runEvent, type Broke, type LiveEvent } from '../schema'

export type RunRow = typeof run.$inferSelect

/** A record that samples of one rate go to. */
export interface RunGroup {
  datasetId: number
  channelIds: number[]
  roles: string[]
  stored: number
}

export async function runOf(db: Db, id: number): Promise<RunRow | null> {
  const [row] = await db.select().from(run).where(eq(run.id, id))
  return row ?? null
}

/** @throws HypometError `already-running` */
export async function assertNoOpenRun(db: Db, testId: number): Promise<void> {
  const open = await db
    .select({ id: run.id })
    .from(run)
    .where(and(eq(run.testId, testId), ne(run.status, 'closed')))
  if (open.length > 0)
    throw new HypometError('already-running', 'A run of this test is still open; close or resume it first.')
}

export type NewRun = Pick<
  typeof run.$inferInsert,
  'testId' | 'datasetId' | 'source' | 'setUp' | 'pace' | 'seed' | 'rigState'
>

/** Opens a run; whoever begins it has the controls. */
export async function createRun(db: Db, by: string, made: NewRun): Promise<number> {
  const [row] = await db
    .insert(run)
    .values({ ...made, controls: by, status: 'running', by, startedAt: new Date().toISOString() })
    .returning({ id: run.id })
  return row!.id
}

/** A record for each rate; the others join the plan's own. */
export async function openRecords(
  db: Db,
  testId: number,
  { plan, view, source, name }: { plan: Plan; view: PlanView; source: RunRow['source']; name: string },
  groups: readonly { rate: number; roles: string[] }[],
): Promise<number> {
  const createdAt = new Date().toISOString()
  let main: number | null = null
  for (const [i, { rate, roles }] of groups.entries()) {
    const [data]: { id: number }[] = await db
      .insert(dataset)
      .values({
        testId,
        source,
        name: i === 0 ? name : `${name}, ${rate} Hz`,
        status: 'recording',
        warnings: [],
        joinsId: main,
        createdAt,
      })
      .returning({ id: dataset.id })
    main ??= data!.id
    const set = [...setPointsOf(plan), view.commanded].map(s => ({ ...s, sensorId: null }))
    const channels = roles.map(role => view.channels.find(c => c.role === role) ?? set.find(s => s.role === role)!)
    await addChannels(db, [
      { datasetId: data!.id, role: 't', name: 'Time', unit: 's' },
      ...channels.map(c => ({
        datasetId: data!.id,
        role: c.role,
        name: c.label,
        unit: siUnit(c.kind as Kind),
        sensorId: c.sensorId,
      })),
    ])
  }
  return main!
}

export async function runGroupsOf(db: Db, main: number): Promise<RunGroup[]> {
  const records = await db
    .select({ id: dataset.id })
    .from(dataset)
    .where(or(eq(dataset.id, main), eq(dataset.joinsId, main)))
    .orderBy(asc(dataset.id))
  return Promise.all(
    records.map(async ({ id }) => {
      const channels = await channelsOfRecords(db, [id])
      return {
        datasetId: id,
        channelIds: channels.map(c => c.id),
        roles: channels.slice(1).map(c => c.role),
        stored: await recordedLength(db, id),
      }
    }),
  )
}

/**
 * Takes an interrupted run up again; whoever does has the controls.
 *
 * @throws HypometError `not-interrupted`, `not-resumable`
 */
export async function resumeRun(db: Db, by: string, runId: number): Promise<void> {
  const r = await interruptedRun(db, runId, 'Only an interrupted run can be resumed.')
  if (r.source === 'rig' && !('given' in (r.rigState ?? {})))
    throw new HypometError(
      'not-resumable',
      'This run was begun by an earlier Hypomet, or broke off before its first sample; close it with what ' +
        'was recorded.',
    )
  await db.update(run).set({ status: 'running', controls: by }).where(eq(run.id, runId))
  const t = (r.rigState as RigState | null)?.t ?? 0
  await db.insert(runEvent).values({ runId, t, kind: 'resumed after a stop', by, at: new Date().toISOString() })
  await audit(db, { who: by, what: 'resume run', entity: 'run', entityId: runId })
}

/** What was seen when the article broke. */
export const keepBroke = async (db: Db, runId: number, broke: Broke): Promise<void> =>
  void (await db.update(run).set({ broke }).where(eq(run.id, runId)))

/** @throws HypometError `not-interrupted` */
export async function interruptedRun(db: Db, runId: number, otherwise: string): Promise<RunRow> {
  const r = await runOf(db, runId)
  if (r?.status !== 'interrupted') throw new HypometError('not-interrupted', otherwise)
  return r
}

/** Runs whose process ended under them. @param going  those that go on in another process */
export const interruptRuns = async (db: Db, going: readonly number[] = []): Promise<void> =>
  void (await db
    .update(run)
    .set({ status: 'interrupted' })
    .where(and(eq(run.status, 'running'), notInArray(run.id, [...going]))))

export async function eventsOfRun(db: Db, runId: number): Promise<LiveEvent[]> {
  return (await db.select().from(runEvent).where(eq(runEvent.runId, runId)).orderBy(asc(runEvent.id))) as LiveEvent[]
}

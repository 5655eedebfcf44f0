import { debrief, HypometError, type DebriefRow, type Fault } from '@hypomet/core'
import { and, desc, eq, isNull, notInArray } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { rehearsal, type LiveEvent } from '../schema'

/** Rehearsals go by numbers of their own among the runs that are going on. */
export const REHEARSALS_FROM = 1_000_000_000

const MOST_SHOWN = 10

export interface NewRehearsal {
  testId: number
  pace: number
  seed: number
  faults: Fault[]
}

export function beginRehearsal(database: Database, by: string, input: NewRehearsal): Promise<number> {
  return database.write(async db => {
    const open = (await db.select().from(rehearsal).where(eq(rehearsal.testId, input.testId))).some(
      r => r.endedAt === null,
    )
    if (open) throw new HypometError('already-running', 'A rehearsal of this test is still going on.')
    const [made] = await db
      .insert(rehearsal)
      .values({ ...input, by, startedAt: new Date().toISOString() })
      .returning({ id: rehearsal.id })
    await audit(db, {
      who: by,
      what: 'start rehearsal',
      entity: 'test',
      entityId: input.testId,
      after: { rehearsal: made!.id, pace: input.pace, seed: input.seed },
    })
    return made!.id
  })
}

export function endRehearsal(
  database: Database,
  id: number,
  ended: { t: number; end: string; events: LiveEvent[] },
): Promise<void> {
  return database.write(
    async db =>
      void (await db
        .update(rehearsal)
        .set({ events: ended.events, endedT: ended.t, end: ended.end, endedAt: new Date().toISOString() })
        .where(eq(rehearsal.id, id))),
  )
}

/** Those whose process ended under them: nothing of them was kept. @param going  those that go on elsewhere */
export async function sweepRehearsals(db: Db, going: readonly number[] = []): Promise<void> {
  await db
    .update(rehearsal)
    .set({ endedAt: new Date().toISOString(), endedT: 0, end: 'broken off' })
    .where(and(isNull(rehearsal.endedAt), notInArray(rehearsal.id, [...going])))
}

/** Newest first, each with its debrief; the surprises of one that goes on are not told. */
export async function rehearsalsOf(
  db: Db,
  testId: number,
): Promise<
  {
    id: number
    runId: number
    by: string
    startedAt: string
    endedAt: string | null
    end: string | null
    pace: number
    seed: number
    debrief: DebriefRow[]
    events: LiveEvent[]
  }[]
> {
  const rows = await db
    .select()
    .from(rehearsal)
    .where(eq(rehearsal.testId, testId))
    .orderBy(desc(rehearsal.id))
    .limit(MOST_SHOWN)
  return rows.map(({ faults, events, endedT, testId: _, ...r }) => ({
    ...r,
    runId: REHEARSALS_FROM + r.id,
    debrief: r.endedAt === null ? [] : debrief(faults, events, endedT ?? 0),
    events,
  }))
}

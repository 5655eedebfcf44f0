import { HypometError, readingAt, struckOut } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database } from '../connection/client'
import { notFound } from '../connection/notFound'
import { run, runEvent } from '../schema'
import { eventsOfRun } from './runs'
import { testContext } from './testContext'
import { planViewOf } from './viewedPlan'

/**
 * Pins what somebody saw to a moment of a run that is over; while it runs the console does that.
 *
 * @param t  s on the run's clock
 * @throws HypometError `still-running`
 */
export function pinNote(database: Database, by: string, runId: number, { t, note }: { t: number; note: string }) {
  return database.write(async db => {
    const [found] = await db.select().from(run).where(eq(run.id, runId))
    if (!found) throw notFound('run', runId)
    if (found.status === 'running') throw new HypometError('still-running', 'The run goes on: mark it on the console.')
    const [made] = await db
      .insert(runEvent)
      .values({ runId, t, kind: 'note', note, by, at: new Date().toISOString() })
      .returning()
    await audit(db, { who: by, what: 'pin note', entity: 'run', entityId: runId, after: made })
    return made!
  })
}

/**
 * Strikes a reading by hand out of a run that is over, the right one beside it: both stay.
 *
 * @param at  s on the run's clock when it was read
 * @param value  the right one, SI
 * @throws HypometError `still-running`, `not-by-hand`, `no-reading`
 */
export function strikeOut(
  database: Database,
  by: string,
  runId: number,
  { at, role, value, note }: { at: number; role: string; value: number; note: string },
) {
  return database.write(async db => {
    const [found] = await db.select().from(run).where(eq(run.id, runId))
    if (!found) throw notFound('run', runId)
    if (found.status === 'running')
      throw new HypometError('still-running', 'The run goes on: strike it out on the console.')
    if (found.source !== 'crew')
      throw new HypometError('not-by-hand', 'This run was read by a rig or a logger: what those read stays as it is.')
    const view = (await planViewOf(db, found.testId))!
    const { prefer } = (await testContext(db, found.testId))!
    const read = readingAt(await eventsOfRun(db, runId), at, role)
    const { said, words } = struckOut({ view, prefer }, read, { at, role, right: value, note })
    const [made] = await db
      .insert(runEvent)
      .values({ ...words, runId, t: at, rung: said.rung, by, at: new Date().toISOString() })
      .returning()
    await audit(db, { who: by, what: 'strike out', entity: 'run', entityId: runId, before: said, after: made })
    return made!
  })
}

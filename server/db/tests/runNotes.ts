import { HypometError } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database } from '../connection/client'
import { notFound } from '../connection/notFound'
import { run, runEvent } from '../schema'

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

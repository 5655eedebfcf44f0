import { eq, inArray } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { job } from '../schema'

/* The table of long work: one row a job, kept after its end. */

export type JobRow = typeof job.$inferSelect
export type JobEnd = Pick<typeof job.$inferInsert, 'status' | 'progress' | 'doing' | 'result' | 'error'>

export async function createJob(db: Db, kind: string, payload: unknown): Promise<number> {
  const [row] = await db
    .insert(job)
    .values({ kind, status: 'running', payload, createdAt: new Date().toISOString() })
    .returning({ id: job.id })
  return row!.id
}

export const endJobs = async (db: Db, ids: number[], end: JobEnd): Promise<void> =>
  void (await db.update(job).set(end).where(inArray(job.id, ids)))

/** @throws HypometError `not-found` */
export async function jobOf(db: Db, id: number): Promise<JobRow> {
  const [row] = await db.select().from(job).where(eq(job.id, id))
  if (!row) throw notFound('job', id)
  return row
}

/** Jobs that an earlier process left behind. */
export const unfinishedJobs = (db: Db): Promise<JobRow[]> =>
  db
    .select()
    .from(job)
    .where(inArray(job.status, ['waiting', 'running']))

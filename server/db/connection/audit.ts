import { createHash } from 'node:crypto'
import { desc } from 'drizzle-orm'
import type { Db } from './client'
import { audit as audits } from '../schema'

export interface AuditEntry {
  who: string
  what: string
  entity: string
  entityId: number | null
  before?: unknown
  after?: unknown
  /** What was done in one go, and can be undone in one. */
  step?: string
}

const hashOf = (
  previousHash: string,
  at: string,
  e: Omit<AuditEntry, 'step'> & { step?: string | undefined },
): string =>
  createHash('sha256')
    .update(
      JSON.stringify([
        previousHash,
        at,
        e.who,
        e.what,
        e.entity,
        e.entityId,
        e.before ?? null,
        e.after ?? null,
        ...(e.step ? [e.step] : []),
      ]),
    )
    .digest('hex')

/** Adds an entry chained to the last one; to be called inside the transaction that makes the change. */
export async function audit(db: Db, entry: AuditEntry): Promise<void> {
  const [last] = await db.select({ hash: audits.hash }).from(audits).orderBy(desc(audits.id)).limit(1)
  const previousHash = last?.hash ?? ''
  const at = new Date().toISOString()
  await db.insert(audits).values({ ...entry, at, previousHash, hash: hashOf(previousHash, at, entry) })
}

/** The id of the first entry whose hash does not follow from the one before, or null when the chain holds. */
export async function firstBreak(db: Db): Promise<number | null> {
  let previousHash = ''
  for (const e of await db.select().from(audits).orderBy(audits.id)) {
    if (e.previousHash !== previousHash || e.hash !== hashOf(previousHash, e.at, { ...e, step: e.step ?? undefined }))
      return e.id
    previousHash = e.hash
  }
  return null
}

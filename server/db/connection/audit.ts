import { createHash } from 'node:crypto'
import { desc, gt } from 'drizzle-orm'
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

const AT_ONCE = 2000

/** Entries whose hash does not follow from the one before, and how many there are; read some at a time. */
export async function breaksOf(db: Db): Promise<{ entries: number; breaks: number[] }> {
  let [previousHash, last, entries] = ['', 0, 0]
  const breaks: number[] = []
  for (;;) {
    const some = await db.select().from(audits).where(gt(audits.id, last)).orderBy(audits.id).limit(AT_ONCE)
    for (const e of some) {
      if (e.previousHash !== previousHash || e.hash !== hashOf(previousHash, e.at, { ...e, step: e.step ?? undefined }))
        breaks.push(e.id)
      previousHash = e.hash
      last = e.id
      entries++
    }
    if (some.length < AT_ONCE) return { entries, breaks }
  }
}

/** The id of the first entry whose hash does not follow from the one before, or null when the chain holds. */
export const firstBreak = async (db: Db): Promise<number | null> => (await breaksOf(db)).breaks[0] ?? null

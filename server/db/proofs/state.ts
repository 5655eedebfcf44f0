import { count, desc, eq, sql } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { audit } from '../schema'
import type { Verified } from './verify'

/** How long the audit trail is, and what the last verification found. */
export async function trailState(db: Db) {
  const [{ n }] = (await db.select({ n: count() }).from(audit)) as [{ n: number }]
  const [last] = await db
    .select({ at: audit.at, who: audit.who, after: audit.after })
    .from(audit)
    .where(eq(audit.what, 'verify'))
    .orderBy(desc(audit.id))
    .limit(1)
  const verified = last ? { ...(last.after as Verified & { slug: string | null }), at: last.at, by: last.who } : null
  return { entries: n, verified }
}

/** Moves with every change that another connection makes. */
export const versionOf = async (db: Db): Promise<number> =>
  (await db.all<{ data_version: number }>(sql`PRAGMA data_version`))[0]?.data_version ?? 0

import { eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { test } from '../schema'

/** Channels that a test's plan works out from others, in its order. */
export async function plannedDerived(db: Db, testId: number): Promise<{ role: string; expression: string }[]> {
  const [t] = await db.select({ plan: test.plan }).from(test).where(eq(test.id, testId))
  const { channels = [] } = (t?.plan ?? {}) as { channels?: { role: string; expression?: string }[] }
  return channels.flatMap(({ role, expression }) => (expression === undefined ? [] : [{ role, expression }]))
}

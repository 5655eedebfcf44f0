import { eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { test } from '../schema'

export interface PlannedDerived {
  role: string
  label: string
  expression: string
}

/** Channels that a test's plan works out from others, in its order. */
export async function plannedDerived(db: Db, testId: number): Promise<PlannedDerived[]> {
  const [t] = await db.select({ plan: test.plan }).from(test).where(eq(test.id, testId))
  const { channels = [] } = (t?.plan ?? {}) as {
    channels?: { role: string; label?: string; expression?: string }[]
  }
  return channels.flatMap(({ role, label = role, expression }) =>
    expression === undefined ? [] : [{ role, label, expression }],
  )
}

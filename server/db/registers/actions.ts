import { actionRegister } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import { action } from '../schema'
import type { Keeper, Stored } from './keeper'

export const actions: Keeper = {
  register: actionRegister,
  table: action,
  campaignOf: (_, stored) => Promise.resolve(stored['campaignId'] as number),
  list: async (db, campaignId) =>
    (await db
      .select()
      .from(action)
      .where(eq(action.campaignId, campaignId!))
      .orderBy(asc(action.id))) as unknown as Stored[],
  columns: row => row,
}

import { actionRegister } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import { action } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

export const actions: RegisterRepository = {
  register: actionRegister,
  table: action,
  campaignOf: (_, stored) => Promise.resolve(stored['campaignId'] as number),
  list: async (db, campaignId) =>
    storedRows(await db.select().from(action).where(eq(action.campaignId, campaignId!)).orderBy(asc(action.id))),
  columns: row => row,
}

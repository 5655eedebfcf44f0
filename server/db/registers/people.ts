import { HypometError, personRegister } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import { action, person } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

export const people: RegisterRepository = {
  register: personRegister,
  table: person,
  campaignOf: () => Promise.resolve(null),
  list: async db => storedRows(await db.select().from(person).orderBy(asc(person.name))),
  columns: row => row,
  async check(db, row, before) {
    const same = (await db.select().from(person)).find(
      p => p.name.toLowerCase() === String(row['name']).toLowerCase() && p.id !== before?.id,
    )
    if (same) throw new HypometError('taken', `There is already a person “${same.name}”.`, { path: 'name' })
  },
  usedBy: async (db, id) =>
    (await db.select({ question: action.question }).from(action).where(eq(action.ownerId, id))).map(
      a => `owns the action “${a.question}”`,
    ),
}

import { HypometError, taskRegister } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import { task } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

/** Tasks name one another, so a name stays while others wait for it. */
export const tasks: RegisterRepository = {
  register: taskRegister,
  table: task,
  campaignOf: (_, stored) => Promise.resolve(stored['campaignId'] as number),
  list: async (db, campaignId) =>
    storedRows(await db.select().from(task).where(eq(task.campaignId, campaignId!)).orderBy(asc(task.id))),
  columns: row => row,
  async check(db, row, before, _context, campaignId) {
    const others = (await db.select().from(task).where(eq(task.campaignId, campaignId!))).filter(
      t => t.id !== before?.id,
    )
    if (others.some(t => t.name === row['name']))
      throw new HypometError('taken', `There is already a task “${String(row['name'])}”.`, { path: 'name' })
    const missing = (row['after'] as string[]).find(a => !others.some(t => t.name === a))
    if (missing)
      throw new HypometError(
        'unknown-reference',
        missing === row['name'] ? 'A task cannot wait for itself.' : `There is no task “${missing}” to wait for.`,
        { path: 'after' },
      )
    const waiting =
      before && before['name'] !== row['name']
        ? others.find(t => t.after.includes(before['name'] as string))
        : undefined
    if (waiting) throw new HypometError('in-use', `“${waiting.name}” waits for it by this name.`, { path: 'name' })
    const circle = circleThrough(
      String(row['name']),
      row['after'] as string[],
      new Map(others.map(t => [t.name, t.after])),
    )
    if (circle)
      throw new HypometError('circle', `These would wait for one another: ${circle.join(' → ')}.`, { path: 'after' })
  },
  async usedBy(db, id) {
    const [mine] = await db.select().from(task).where(eq(task.id, id))
    return (await db.select().from(task).where(eq(task.campaignId, mine!.campaignId)))
      .filter(t => t.after.includes(mine!.name))
      .map(t => `“${t.name}” waits for it`)
  },
}

/** The way from a task back to itself along what each waits for; null when there is none. */
function circleThrough(name: string, after: string[], waits: Map<string, string[]>): string[] | null {
  const seen = new Set<string>()
  const walk = (at: string, way: string[]): string[] | null => {
    if (at === name) return [...way, at]
    if (seen.has(at)) return null
    seen.add(at)
    for (const next of waits.get(at) ?? []) {
      const found = walk(next, [...way, at])
      if (found) return found
    }
    return null
  }
  for (const a of after) {
    const found = walk(a, [name])
    if (found) return found
  }
  return null
}

import { randomUUID } from 'node:crypto'
import { checkRow, HypometError } from '@hypomet/core'
import { desc, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { attachment, audit as audits } from '../schema'
import { removeStored, storedOf, type Done } from './service'
import { repositoryOf } from './index'
import { rowOf, type RegisterRepository, type Stored } from './repository'
import { contextOf } from './refs'

/**
 * Takes back what was done in one go, all of it or nothing. It is a change of its own, so that undoing it does it
 * again.
 *
 * @throws HypometError `nothing-to-undo`, `changed-meanwhile`, `in-use`
 */
export function undoStep(database: Database, by: string, step: string): Promise<Done> {
  return database.write(async db => {
    const entries = await db.select().from(audits).where(eq(audits.step, step)).orderBy(desc(audits.id))
    if (entries.length === 0) throw new HypometError('nothing-to-undo', 'There is nothing to undo.')
    const undoing = randomUUID()
    const ids: number[] = []
    for (const e of entries) {
      ids.push(e.entityId!)
      if (e.entity === 'attachment') await turnAttachment(db, by, undoing, e.entityId!)
      else
        await turnRow(
          db,
          by,
          undoing,
          repositoryOf(e.entity),
          e.entityId!,
          e.before as Stored | null,
          e.after as Stored | null,
        )
    }
    return { step: undoing, ids }
  })
}

async function turnRow(
  db: Db,
  by: string,
  step: string,
  repository: RegisterRepository,
  id: number,
  before: Stored | null,
  after: Stored | null,
): Promise<void> {
  const table = repository.table as unknown as typeof attachment
  const current = (await storedOf(db, repository, id)) ?? null
  if (!sameFields(repository, current, after))
    throw new HypometError(
      'changed-meanwhile',
      `This ${repository.register.one.toLowerCase()} has been changed since; it is not put back over that.`,
    )
  if (current) await repository.assertOpen?.(db, current, before)
  if (before) await assertFits(db, repository, before, current)
  if (before === null) await removeStored(db, repository, current!)
  else if (current === null) await db.insert(table).values({ ...before, version: before.version + 1 } as never)
  else
    await db
      .update(table)
      .set({ ...before, version: current.version + 1 } as never)
      .where(eq(table.id, id))
  const now = (await storedOf(db, repository, id)) ?? null
  await audit(db, {
    who: by,
    what: 'undo',
    entity: repository.register.id,
    entityId: id,
    before: current,
    after: now,
    step,
  })
  await repository.after?.(db, { by, step, before: current, after: now })
}

/** What is put back must still hold: what it points to may be gone, its name taken. @throws HypometError */
async function assertFits(
  db: Db,
  repository: RegisterRepository,
  before: Stored,
  current: Stored | null,
): Promise<void> {
  const campaignId = await repository.campaignOf(db, before)
  const context = await contextOf(db, campaignId)
  const row = checkRow(repository.register, rowOf(repository, before), context)
  await repository.check?.(db, row, current, context, campaignId)
}

/** Whether a row still is what it was left as. */
function sameFields(repository: RegisterRepository, a: Stored | null, b: Stored | null): boolean {
  const plain = (s: Stored | null) => (s === null ? null : { ...rowOf(repository, s), version: 0 })
  return JSON.stringify(plain(a)) === JSON.stringify(plain(b))
}

async function turnAttachment(db: Db, by: string, step: string, id: number): Promise<void> {
  const [before] = await db
    .select({ removedAt: attachment.removedAt, name: attachment.name })
    .from(attachment)
    .where(eq(attachment.id, id))
  const removedAt = before!.removedAt === null ? new Date().toISOString() : null
  await db.update(attachment).set({ removedAt }).where(eq(attachment.id, id))
  await audit(db, {
    who: by,
    what: 'undo',
    entity: 'attachment',
    entityId: id,
    before,
    after: { ...before, removedAt },
    step,
  })
}

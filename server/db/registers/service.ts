import { randomUUID } from 'node:crypto'
import { changedKeys, checkRow, HypometError, isHypometError, type RegisterContext, type Row } from '@hypomet/core'
import { and, desc, eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { attachment, audit as audits } from '../schema'
import { repositoryOf } from './index'
import { rowOf, storedRows, type RegisterRepository, type Stored } from './repository'
import { contextOf } from './refs'

const now = () => new Date().toISOString()

/** Rows of a register with what they may point to. */
export async function listRows(db: Db, registerId: string, campaignId: number | null) {
  const repository = repositoryOf(registerId)
  const stored = await repository.list(db, repository.register.perCampaign ? campaignId : null)
  const extras = stored.length > 0 ? ((await repository.extras?.(db, stored)) ?? {}) : {}
  const { refs, currency } = await contextOf(db, repository.register.perCampaign ? campaignId : null)
  return {
    rows: stored.map(s => ({ ...rowOf(repository, s), ...extras[s.id] })) as (Row & { id: number; version: number })[],
    refs,
    currency,
  }
}

export interface Batch {
  /** For registers that belong to a campaign. */
  campaignId: number | null
  creates: Row[]
  changes: { id: number; version: number; values: Row }[]
  removes: { id: number; version: number }[]
}

export interface Done {
  /** What undoes it all. */
  step: string
  ids: number[]
}

/**
 * Makes, changes and removes rows in one go: all of it or nothing. A refusal names the row (counted over creates, then
 * changes, then removes, from 1) and the field.
 *
 * @throws HypometError; `changed-meanwhile` where somebody else saved a row first
 */
export function writeRows(database: Database, by: string, registerId: string, batch: Batch): Promise<Done> {
  return database.write(db => writeRowsIn(db, by, registerId, batch))
}

export async function writeRowsIn(
  db: Db,
  by: string,
  registerId: string,
  batch: Batch,
  step: string = randomUUID(),
): Promise<Done> {
  const repository = repositoryOf(registerId)
  if (repository.closed && batch.creates.length > 0)
    throw new HypometError('not-here', `${repository.register.many} are made elsewhere.`)
  const ids: number[] = []
  const contexts = new Map<number | null, RegisterContext>()
  const contextFor = async (campaignId: number | null): Promise<RegisterContext> => {
    const known = contexts.get(campaignId) ?? (await contextOf(db, campaignId))
    contexts.set(campaignId, known)
    return known
  }
  let at = 0
  const several = batch.creates.length + batch.changes.length + batch.removes.length > 1
  const inPlace = async <T>(work: () => Promise<T>): Promise<T> => {
    at++
    try {
      return await work()
    } catch (e) {
      throw isHypometError(e) && several ? e.at({ row: at }) : e
    }
  }
  for (const row of batch.creates)
    await inPlace(async () =>
      ids.push(await create(db, by, step, repository, row, await contextFor(batch.campaignId), batch.campaignId)),
    )
  for (const c of batch.changes)
    await inPlace(async () => ids.push(await change(db, by, step, repository, c, contextFor)))
  for (const r of batch.removes) await inPlace(() => remove(db, by, step, repository, r))
  return { step, ids }
}

const tableOf = (repository: RegisterRepository) => repository.table as unknown as typeof attachment

export async function storedOf(db: Db, repository: RegisterRepository, id: number): Promise<Stored | undefined> {
  return (
    await db
      .select()
      .from(tableOf(repository))
      .where(eq(tableOf(repository).id, id))
  )[0] as Stored | undefined
}

async function create(
  db: Db,
  by: string,
  step: string,
  repository: RegisterRepository,
  row: Row,
  context: RegisterContext,
  campaignId: number | null,
): Promise<number> {
  const checked = checkRow(repository.register, row, context)
  await repository.check?.(db, checked, null, context, campaignId)
  if (repository.register.perCampaign && campaignId === null)
    throw new HypometError('missing-setting', 'The campaign is not said.', { path: 'campaignId' })
  const values = {
    ...repository.columns(checked, context),
    ...(repository.register.perCampaign ? { campaignId } : {}),
    createdAt: now(),
  }
  // Which columns a table has is known by its repository alone.
  const [made] = storedRows(
    await db
      .insert(tableOf(repository))
      .values(values as never)
      .returning(),
  )
  await audit(db, { who: by, what: 'create', entity: repository.register.id, entityId: made!.id, after: made, step })
  await repository.after?.(db, { by, step, before: null, after: made! })
  return made!.id
}

async function change(
  db: Db,
  by: string,
  step: string,
  repository: RegisterRepository,
  { id, version, values }: Batch['changes'][number],
  contextFor: (campaignId: number | null) => Promise<RegisterContext>,
): Promise<number> {
  const before = await storedOf(db, repository, id)
  if (!before) throw notFound(repository.register.one.toLowerCase(), id)
  if (before.version !== version) throw await changedMeanwhile(db, repository, before, version)
  await repository.assertOpen?.(db, before)
  const campaignId = await repository.campaignOf(db, before)
  const context = await contextFor(campaignId)
  const old = rowOf(repository, before)
  const fixed = repository.register.fields.find(
    f => f.fixed && f.key in values && JSON.stringify(values[f.key] ?? null) !== JSON.stringify(old[f.key] ?? null),
  )
  if (fixed)
    throw new HypometError('fixed', `${fixed.title} was said when it was made, and stays.`, { path: fixed.key })
  const checked = checkRow(repository.register, { ...old, ...values }, context)
  await repository.check?.(db, checked, before, context, campaignId)
  if (changedKeys(repository.register, old, checked).length === 0) return id
  await db
    .update(tableOf(repository))
    .set({ ...repository.columns(checked, context), version: version + 1 } as never)
    .where(eq(tableOf(repository).id, id))
  const after = (await storedOf(db, repository, id))!
  await audit(db, { who: by, what: 'change', entity: repository.register.id, entityId: id, before, after, step })
  await repository.after?.(db, { by, step, before, after })
  return id
}

async function remove(
  db: Db,
  by: string,
  step: string,
  repository: RegisterRepository,
  { id, version }: { id: number; version: number },
): Promise<void> {
  const before = await storedOf(db, repository, id)
  if (!before) throw notFound(repository.register.one.toLowerCase(), id)
  if (before.version !== version) throw await changedMeanwhile(db, repository, before, version)
  await repository.assertOpen?.(db, before)
  await removeStored(db, repository, before)
  await audit(db, { who: by, what: 'remove', entity: repository.register.id, entityId: id, before, step })
  await repository.after?.(db, { by, step, before, after: null })
}

/** @throws HypometError `in-use` */
export async function removeStored(db: Db, repository: RegisterRepository, before: Stored): Promise<void> {
  const users = (await repository.usedBy?.(db, before.id)) ?? []
  const files = (
    await db
      .select({ removedAt: attachment.removedAt, name: attachment.name })
      .from(attachment)
      .where(and(eq(attachment.entity, repository.register.id), eq(attachment.entityId, before.id)))
  ).filter(f => f.removedAt === null)
  const all = [...users, ...files.map(f => `the file “${f.name}” is attached`)]
  if (all.length > 0)
    throw new HypometError(
      'in-use',
      `${repository.register.one} “${nameOf(repository, before)}” stays: ` +
        `${all.slice(0, 4).join('; ')}${all.length > 4 ? `; and ${all.length - 4} more` : ''}.`,
    )
  await repository.clear?.(db, before.id)
  await db.delete(tableOf(repository)).where(eq(tableOf(repository).id, before.id))
}

export const nameOf = (repository: RegisterRepository, stored: Stored): string =>
  String(rowOf(repository, stored)[repository.register.name] ?? stored.id)

/** Who saved first, and what they made of it. */
async function changedMeanwhile(
  db: Db,
  repository: RegisterRepository,
  current: Stored,
  version: number,
): Promise<HypometError> {
  const entries = await db
    .select()
    .from(audits)
    .where(and(eq(audits.entity, repository.register.id), eq(audits.entityId, current.id)))
    .orderBy(desc(audits.id))
  const since = entries.filter(e => ((e.after as Stored | null)?.version ?? 0) > version)
  const first = since.at(-1)?.before as Stored | null | undefined
  const keys = first ? changedKeys(repository.register, rowOf(repository, first), rowOf(repository, current)) : []
  const titles = keys.map(k => repository.register.fields.find(f => f.key === k)!.title)
  return new HypometError(
    'changed-meanwhile',
    `${since[0]?.who ?? 'Somebody'} saved this ${repository.register.one.toLowerCase()} before ` +
      `you${titles.length > 0 ? ` (${titles.join(', ')})` : ''}. What you entered is kept here: look at theirs, then ` +
      `save yours over it or leave it.`,
    { path: keys.join(',') },
  )
}

/** All that was ever done to a row, newest first. */
export async function historyOf(db: Db, entity: string, id: number) {
  const repository = repositoryOf(entity)
  const entries = await db
    .select()
    .from(audits)
    .where(and(eq(audits.entity, entity), eq(audits.entityId, id)))
    .orderBy(desc(audits.id))
    .limit(200)
  return entries.map(e => {
    const [before, after] = [e.before, e.after].map(x =>
      x && typeof x === 'object' && 'id' in x ? rowOf(repository, x as Stored) : null,
    )
    return {
      id: e.id,
      at: e.at,
      who: e.who,
      what: e.what,
      changes:
        before && after
          ? changedKeys(repository.register, before, after).map(key => ({
              key,
              title: repository.register.fields.find(f => f.key === key)!.title,
              before: before[key],
              after: after[key],
            }))
          : [],
    }
  })
}

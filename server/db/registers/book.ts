import { randomUUID } from 'node:crypto'
import { changedKeys, checkRow, HypometError, isHypometError, type RegisterContext, type Row } from '@hypomet/core'
import { and, desc, eq } from 'drizzle-orm'
import { record } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { attachment, audit } from '../schema'
import { keeperOf } from './index'
import { rowOf, type Keeper, type Stored } from './keeper'
import { contextOf } from './refs'

const now = () => new Date().toISOString()

/** Rows of a register with what they may point to. */
export async function listRows(db: Db, registerId: string, campaignId: number | null) {
  const keeper = keeperOf(registerId)
  const stored = await keeper.list(db, keeper.register.perCampaign ? campaignId : null)
  const extras = stored.length > 0 ? ((await keeper.extras?.(db, stored)) ?? {}) : {}
  const { refs } = await contextOf(db, keeper.register.perCampaign ? campaignId : null)
  return {
    rows: stored.map(s => ({ ...rowOf(keeper, s), ...extras[s.id] })) as (Row & { id: number; version: number })[],
    refs,
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
  const keeper = keeperOf(registerId)
  if (keeper.closed && batch.creates.length > 0)
    throw new HypometError('not-here', `${keeper.register.many} are made elsewhere.`)
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
      ids.push(await create(db, by, step, keeper, row, await contextFor(batch.campaignId), batch.campaignId)),
    )
  for (const c of batch.changes) await inPlace(async () => ids.push(await change(db, by, step, keeper, c, contextFor)))
  for (const r of batch.removes) await inPlace(() => remove(db, by, step, keeper, r))
  return { step, ids }
}

const tableOf = (keeper: Keeper) => keeper.table as unknown as typeof attachment

export async function storedOf(db: Db, keeper: Keeper, id: number): Promise<Stored | undefined> {
  return (
    await db
      .select()
      .from(tableOf(keeper))
      .where(eq(tableOf(keeper).id, id))
  )[0] as Stored | undefined
}

async function create(
  db: Db,
  by: string,
  step: string,
  keeper: Keeper,
  row: Row,
  context: RegisterContext,
  campaignId: number | null,
): Promise<number> {
  const checked = checkRow(keeper.register, row, context)
  await keeper.check?.(db, checked, null, context, campaignId)
  if (keeper.register.perCampaign && campaignId === null)
    throw new HypometError('missing-setting', 'The campaign is not said.', { path: 'campaignId' })
  const values = {
    ...keeper.columns(checked, context),
    ...(keeper.register.perCampaign ? { campaignId } : {}),
    createdAt: now(),
  }
  const [made] = (await db
    .insert(tableOf(keeper))
    .values(values as never)
    .returning()) as unknown as Stored[]
  await record(db, { who: by, what: 'create', entity: keeper.register.id, entityId: made!.id, after: made, step })
  await keeper.after?.(db, { by, step, before: null, after: made! })
  return made!.id
}

async function change(
  db: Db,
  by: string,
  step: string,
  keeper: Keeper,
  { id, version, values }: Batch['changes'][number],
  contextFor: (campaignId: number | null) => Promise<RegisterContext>,
): Promise<number> {
  const before = await storedOf(db, keeper, id)
  if (!before) throw notFound(keeper.register.one.toLowerCase(), id)
  if (before.version !== version) throw await changedMeanwhile(db, keeper, before, version)
  await keeper.assertOpen?.(db, before)
  const campaignId = await keeper.campaignOf(db, before)
  const context = await contextFor(campaignId)
  const old = rowOf(keeper, before)
  const fixed = keeper.register.fields.find(
    f => f.fixed && f.key in values && JSON.stringify(values[f.key] ?? null) !== JSON.stringify(old[f.key] ?? null),
  )
  if (fixed)
    throw new HypometError('fixed', `${fixed.title} was said when it was made, and stays.`, { path: fixed.key })
  const checked = checkRow(keeper.register, { ...old, ...values }, context)
  await keeper.check?.(db, checked, before, context, campaignId)
  if (changedKeys(keeper.register, old, checked).length === 0) return id
  await db
    .update(tableOf(keeper))
    .set({ ...keeper.columns(checked, context), version: version + 1 } as never)
    .where(eq(tableOf(keeper).id, id))
  const after = (await storedOf(db, keeper, id))!
  await record(db, { who: by, what: 'change', entity: keeper.register.id, entityId: id, before, after, step })
  await keeper.after?.(db, { by, step, before, after })
  return id
}

async function remove(
  db: Db,
  by: string,
  step: string,
  keeper: Keeper,
  { id, version }: { id: number; version: number },
): Promise<void> {
  const before = await storedOf(db, keeper, id)
  if (!before) throw notFound(keeper.register.one.toLowerCase(), id)
  if (before.version !== version) throw await changedMeanwhile(db, keeper, before, version)
  await keeper.assertOpen?.(db, before)
  await removeStored(db, keeper, before)
  await record(db, { who: by, what: 'remove', entity: keeper.register.id, entityId: id, before, step })
  await keeper.after?.(db, { by, step, before, after: null })
}

/** @throws HypometError `in-use` */
export async function removeStored(db: Db, keeper: Keeper, before: Stored): Promise<void> {
  const users = (await keeper.usedBy?.(db, before.id)) ?? []
  const files = (
    await db
      .select({ removedAt: attachment.removedAt, name: attachment.name })
      .from(attachment)
      .where(and(eq(attachment.entity, keeper.register.id), eq(attachment.entityId, before.id)))
  ).filter(f => f.removedAt === null)
  const all = [...users, ...files.map(f => `the file “${f.name}” is attached`)]
  if (all.length > 0)
    throw new HypometError(
      'in-use',
      `${keeper.register.one} “${nameOf(keeper, before)}” stays: ` +
        `${all.slice(0, 4).join('; ')}${all.length > 4 ? `; and ${all.length - 4} more` : ''}.`,
    )
  await keeper.clear?.(db, before.id)
  await db.delete(tableOf(keeper)).where(eq(tableOf(keeper).id, before.id))
}

export const nameOf = (keeper: Keeper, stored: Stored): string =>
  String(rowOf(keeper, stored)[keeper.register.name] ?? stored.id)

/** Who saved first, and what they made of it. */
async function changedMeanwhile(db: Db, keeper: Keeper, current: Stored, version: number): Promise<HypometError> {
  const entries = await db
    .select()
    .from(audit)
    .where(and(eq(audit.entity, keeper.register.id), eq(audit.entityId, current.id)))
    .orderBy(desc(audit.id))
  const since = entries.filter(e => ((e.after as Stored | null)?.version ?? 0) > version)
  const first = since.at(-1)?.before as Stored | null | undefined
  const keys = first ? changedKeys(keeper.register, rowOf(keeper, first), rowOf(keeper, current)) : []
  const titles = keys.map(k => keeper.register.fields.find(f => f.key === k)!.title)
  return new HypometError(
    'changed-meanwhile',
    `${since[0]?.who ?? 'Somebody'} saved this ${keeper.register.one.toLowerCase()} before ` +
      `you${titles.length > 0 ? ` (${titles.join(', ')})` : ''}. What you entered is kept here: look at theirs, then ` +
      `save yours over it or leave it.`,
    { path: keys.join(',') },
  )
}

/** All that was ever done to a row, newest first. */
export async function historyOf(db: Db, entity: string, id: number) {
  const keeper = keeperOf(entity)
  const entries = await db
    .select()
    .from(audit)
    .where(and(eq(audit.entity, entity), eq(audit.entityId, id)))
    .orderBy(desc(audit.id))
    .limit(200)
  return entries.map(e => {
    const [before, after] = [e.before, e.after].map(x =>
      x && typeof x === 'object' && 'id' in x ? rowOf(keeper, x as Stored) : null,
    )
    return {
      id: e.id,
      at: e.at,
      who: e.who,
      what: e.what,
      changes:
        before && after
          ? changedKeys(keeper.register, before, after).map(key => ({
              key,
              title: keeper.register.fields.find(f => f.key === key)!.title,
              before: before[key],
              after: after[key],
            }))
          : [],
    }
  })
}

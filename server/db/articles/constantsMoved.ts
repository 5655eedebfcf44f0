import { randomUUID } from 'node:crypto'
import { families, HypometError, outlineOf, viewPlanOf, siOfConstant, type Kind, type Row } from '@hypomet/core'
import { eq, inArray } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { writeRowsIn } from '../registers/service'
import { article, constant, revision, run, test } from '../schema'
import { listSensors } from '../registers/inventory'

export interface Moved {
  revisionId: number
  article: string
  label: string
  /** Properties that are taken from the constant. */
  properties: string[]
  /** Whether a test of the revision has been run: its locked predictions stay. */
  tested: boolean
  /** What the calculation says of each planned test, with the old number and with the new one, SI. */
  tests: {
    testId: number
    title: string
    ran: boolean
    results: { quantity: string; label: string; kind: Kind; before: number; after: number }[]
  }[]
}

/** Everything that was sized from a constant, and how it moves when another value takes its place. */
export async function movedBy(
  db: Db,
  constantId: number,
  replacement: Row,
): Promise<{ moved: Moved[]; before: number; after: number; kind: Kind }> {
  const [old] = await db.select().from(constant).where(eq(constant.id, constantId))
  if (!old) throw notFound('constant', constantId)
  const { value, kind } = siOfConstant(replacement)
  if (kind !== old.kind)
    throw new HypometError(
      'unit-dimension',
      `${old.property} of ${old.subject} is a ${old.kind}; the new value is a ${kind}.`,
      { path: 'entered' },
    )
  const sensors = Object.fromEntries((await listSensors(db)).map(s => [s.id, s.si]))
  const rows = (
    await db
      .select({ revision, article })
      .from(revision)
      .innerJoin(article, eq(article.id, revision.articleId))
      .where(eq(article.campaignId, old.campaignId))
  ).filter(r => Object.values(r.revision.constants).includes(constantId))
  const moved = await Promise.all(
    rows.map(async ({ revision: r, article: a }): Promise<Moved> => {
      const properties = Object.entries(r.constants)
        .filter(([, id]) => id === constantId)
        .map(([key]) => key)
      const tests = await db.select().from(test).where(eq(test.revisionId, r.id))
      const begun =
        tests.length === 0
          ? []
          : await db
              .select({ testId: run.testId })
              .from(run)
              .where(
                inArray(
                  run.testId,
                  tests.map(t => t.id),
                ),
              )
      const { stages } = families[a.family] ?? {}
      const results = outlineOf(a.family)!.results
      const predict = (t: typeof test.$inferSelect, entered: Record<string, unknown>) =>
        viewPlanOf(a.family, t.plan, entered, sensors, { facts: r.facts }).view
      return {
        revisionId: r.id,
        article: a.name,
        label: r.label,
        properties,
        tested: begun.length > 0,
        tests: !stages?.model
          ? []
          : tests
              .filter(t => stages.plan.safeParse(t.plan).success)
              .map(t => {
                const [before, after] = [
                  predict(t, r.properties),
                  predict(t, {
                    ...r.properties,
                    ...Object.fromEntries(properties.map(p => [p, replacement['entered']])),
                  }),
                ]
                const of = (quantity: string) => after.predictions.find(p => p.quantity === quantity)!.value
                return {
                  testId: t.id,
                  title: t.title,
                  ran: begun.some(b => b.testId === t.id),
                  results: before.predictions.map(p => ({
                    quantity: p.quantity,
                    label: results[p.quantity]!.label,
                    kind: results[p.quantity]!.kind,
                    before: p.value,
                    after: of(p.quantity),
                  })),
                }
              }),
      }
    }),
  )
  return { moved, before: old.value, after: value, kind: kind as Kind }
}

/**
 * By decision a measured constant takes the place of another: the old one stays and names it, and the revisions that
 * are
 * chosen are sized anew from the new one. One step: undone together.
 */
export function replaceConstant(
  database: Database,
  by: string,
  constantId: number,
  input: { replacement: Row; version: number; recompute: number[] },
) {
  return database.write(async db => {
    const step = randomUUID()
    const [old] = await db.select().from(constant).where(eq(constant.id, constantId))
    if (!old) throw notFound('constant', constantId)
    if (old.version !== input.version || old.replacedById !== null)
      throw new HypometError(
        'changed-meanwhile',
        'Somebody changed or replaced this constant before you. Look at theirs first.',
      )
    const { moved } = await movedBy(db, constantId, input.replacement)
    const {
      ids: [madeId],
    } = await writeRowsIn(
      db,
      by,
      'constant',
      {
        campaignId: old.campaignId,
        creates: [{ ...input.replacement, subject: old.subject, property: old.property }],
        changes: [],
        removes: [],
      },
      step,
    )
    await db
      .update(constant)
      .set({ replacedById: madeId!, version: old.version + 1 })
      .where(eq(constant.id, constantId))
    const [after] = await db.select().from(constant).where(eq(constant.id, constantId))
    await audit(db, { who: by, what: 'replace', entity: 'constant', entityId: constantId, before: old, after, step })
    await relink(db, by, step, old.campaignId, constantId, madeId!, input.recompute)
    return { step, id: madeId!, moved }
  })
}

/** Sizes revisions that still stand on a replaced constant from what took its place. */
export function sizeAnew(database: Database, by: string, constantId: number, revisionIds: number[]) {
  return database.write(async db => {
    const [old] = await db.select().from(constant).where(eq(constant.id, constantId))
    if (!old) throw notFound('constant', constantId)
    if (old.replacedById === null)
      throw new HypometError('setting-range', 'This constant stands; nothing took its place.')
    const step = randomUUID()
    await relink(db, by, step, old.campaignId, constantId, await lastOf(db, old.replacedById), revisionIds)
    return { step }
  })
}

/** What stands at the end of a chain of replacements. */
async function lastOf(db: Db, id: number): Promise<number> {
  for (let at = id; ;) {
    const [c] = await db.select({ next: constant.replacedById }).from(constant).where(eq(constant.id, at))
    if (!c?.next) return at
    at = c.next
  }
}

async function relink(
  db: Db,
  by: string,
  step: string,
  campaignId: number,
  from: number,
  to: number,
  revisionIds: number[],
): Promise<void> {
  const rows = revisionIds.length === 0 ? [] : await db.select().from(revision).where(inArray(revision.id, revisionIds))
  const changes = rows
    .filter(r => Object.values(r.constants).includes(from))
    .map(r => ({
      id: r.id,
      version: r.version,
      values: {
        constants: Object.fromEntries(Object.entries(r.constants).map(([key, id]) => [key, id === from ? to : id])),
      },
    }))
  await writeRowsIn(db, by, 'revision', { campaignId, creates: [], changes, removes: [] }, step)
}

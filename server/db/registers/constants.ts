import { constantRegister, HypometError, siOfConstant } from '@hypomet/core'
import { and, asc, eq, isNull } from 'drizzle-orm'
import { article, constant, revision } from '../schema'
import { storedRows, type RegisterRepository } from './repository'

export const constants: RegisterRepository = {
  register: constantRegister,
  table: constant,
  campaignOf: (_, stored) => Promise.resolve(stored['campaignId'] as number),
  list: async (db, campaignId) =>
    storedRows(
      await db
        .select()
        .from(constant)
        .where(eq(constant.campaignId, campaignId!))
        .orderBy(asc(constant.subject), asc(constant.property), asc(constant.id)),
    ),
  columns: row => {
    const { value, kind } = siOfConstant(row)
    return { ...row, value, kind }
  },
  async extras(db, rows) {
    const ids = new Set(rows.map(r => r.id))
    const users: Record<number, { id: number; name: string }[]> = {}
    for (const r of await db
      .select({ id: revision.id, label: revision.label, name: article.name, constants: revision.constants })
      .from(revision)
      .innerJoin(article, eq(article.id, revision.articleId)))
      for (const id of new Set(Object.values(r.constants)))
        if (ids.has(id)) (users[id] ??= []).push({ id: r.id, name: `${r.name} ${r.label}` })
    return Object.fromEntries(
      rows.map(r => [
        r.id,
        { replacedById: r['replacedById'], fixed: r['replacedById'] !== null, usedBy: users[r.id] ?? [] },
      ]),
    )
  },
  async check(db, row, before) {
    const { kind } = siOfConstant(row)
    if (before && before['kind'] !== kind) {
      const users = await usersOf(db, before.id)
      if (users.length > 0)
        throw new HypometError(
          'unit-dimension',
          `${users.join(', ')} ${users.length === 1 ? 'is' : 'are'} sized from this constant: it stays a ` +
            `${String(before['kind'])}.`,
          { path: 'entered' },
        )
    }
  },
  assertOpen: (_, before, becoming) => {
    // Undoing the replacement itself is what opens it again.
    const opens = becoming && becoming['replacedById'] !== before['replacedById']
    if (before['replacedById'] !== null && !opens)
      throw new HypometError(
        'replaced',
        'This constant was replaced; it stays as it was when things were sized from it.',
      )
    return Promise.resolve()
  },
  async usedBy(db, id) {
    const replaced = await db.select({ id: constant.id }).from(constant).where(eq(constant.replacedById, id))
    return [
      ...(await usersOf(db, id)).map(u => `${u} is sized from it`),
      ...(replaced.length > 0 ? ['it took the place of another'] : []),
    ]
  },
}

type Db = Parameters<NonNullable<RegisterRepository['usedBy']>>[0]

async function usersOf(db: Db, id: number): Promise<string[]> {
  const rows = await db
    .select({ label: revision.label, name: article.name, constants: revision.constants })
    .from(revision)
    .innerJoin(article, eq(article.id, revision.articleId))
  return rows.filter(r => Object.values(r.constants).includes(id)).map(r => `${r.name} ${r.label}`)
}

/** Constants of a campaign that stand: not replaced. */
export const standing = (db: Db, campaignId: number) =>
  db
    .select()
    .from(constant)
    .where(and(eq(constant.campaignId, campaignId), isNull(constant.replacedById)))
    .orderBy(asc(constant.id))

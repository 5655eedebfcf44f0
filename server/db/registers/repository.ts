import type { Register, RegisterContext, Row } from '@hypomet/core'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import type { Db } from '../connection/client'

/** A row as its table holds it. */
export type Stored = { id: number; version: number } & Record<string, unknown>

/**
 * Rows of any register's table as rows of a repository. Every register's table has `id` and `version`; drizzle's row
 * types have no index, so that the cast stands here and nowhere else.
 */
export const storedRows = (rows: readonly { id: number }[]): Stored[] => rows as unknown as Stored[]

/** What a change of a row was, for what follows from it. */
export interface Written {
  by: string
  step: string
  before: Stored | null
  after: Stored | null
}

/** How the rows of a register lie in the database, and what only the database knows of them. */
export interface RegisterRepository {
  register: Register
  table: SQLiteTable
  /** Campaign of a row that is about to be made or stands; null where rows belong to none. */
  campaignOf(db: Db, stored: Stored): Promise<number | null>
  /** All rows of a campaign, or all there are. */
  list(db: Db, campaignId: number | null): Promise<Stored[]>
  /** From a checked row to the table's columns. */
  columns(row: Row, context: RegisterContext): Record<string, unknown>
  /** Back; where it is left out, columns and fields have the same names. */
  row?(stored: Stored): Row
  /** What the row shows beyond its fields. */
  extras?(db: Db, rows: Stored[]): Promise<Record<number, Record<string, unknown>>>
  /** What the other rows must allow. @throws HypometError */
  check?(db: Db, row: Row, before: Stored | null, context: RegisterContext, campaignId: number | null): Promise<void>
  /** `becoming` is what an undo would make of it. @throws HypometError where a row stands as it is. */
  assertOpen?(db: Db, before: Stored, becoming?: Stored | null): Promise<void>
  /** Sentences that name what rests on a row. */
  usedBy?(db: Db, id: number): Promise<string[]>
  /** Takes away what falls with a row. */
  clear?(db: Db, id: number): Promise<void>
  /** Rows are made elsewhere. */
  closed?: boolean
  after?(db: Db, written: Written): Promise<void>
}

/** A row as its register knows it, with its number and its version. */
export function rowOf(repository: RegisterRepository, stored: Stored): Row & { id: number; version: number } {
  const row =
    repository.row?.(stored) ?? Object.fromEntries(repository.register.fields.map(f => [f.key, stored[f.key] ?? null]))
  return { ...row, id: stored.id, version: stored.version }
}

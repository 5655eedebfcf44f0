import type { Result, ResultTable } from '../method/reduction'

export const exact = (value: number | null, unit: string): Result => ({ value, unit, bound: 'exact' })

/** Results without those that were not asked for. */
export const given = (results: Record<string, Result | null>): Record<string, Result> =>
  Object.fromEntries(Object.entries(results).filter((e): e is [string, Result] => e[1] !== null))

/** Rows of a table as its columns; the first row says which there are. */
export function tableOf(
  rows: readonly Record<string, number | string | null>[],
  units: Record<string, string>,
): ResultTable {
  const names = Object.keys(rows[0] ?? units)
  return { columns: Object.fromEntries(names.map(n => [n, rows.map(r => r[n] ?? null)])), units }
}

/** A table under its name, or none. */
export const tablesOf = (name: string, table: ResultTable | null): Record<string, ResultTable> =>
  table ? { [name]: table } : {}

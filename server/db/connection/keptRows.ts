const MOST_KEPT = 64

/**
 * Rows that were read before, kept while none of their tables has changed: what one person saves touches one or two
 * tables, and a page reads fifteen. Triggers count the changes of a table, so that those of other programs count too.
 */
export class KeptRows {
  private readonly kept = new Map<string, { versions: string; rows: Promise<unknown[]> }>()

  /** @param versions of the tables, read before any row: what changes later is seen by the next one asking */
  at(versions: ReadonlyMap<string, number>): RowsNow {
    return { rows: (query, make) => this.rowsAt(versions, query, make) }
  }

  private async rowsAt<T>(
    known: ReadonlyMap<string, number>,
    { sql, params }: { sql: string; params: unknown[] },
    make: () => Promise<T[]>,
  ): Promise<T[]> {
    const versions = tablesIn(sql).map(table => {
      const version = known.get(table)
      if (version === undefined) throw new Error(`changes of ${table} are not counted`)
      return `${table} ${version}`
    })
    const [key, at] = [`${sql} ${JSON.stringify(params)}`, versions.join()]
    const before = this.kept.get(key)
    if (before?.versions === at) return [...((await before.rows) as T[])]
    const rows = make()
    this.kept.delete(key)
    this.kept.set(key, { versions: at, rows })
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!)
    rows.catch(() => this.kept.get(key)?.rows === rows && this.kept.delete(key))
    return [...(await rows)]
  }
}

export interface RowsNow {
  rows: <T>(query: { sql: string; params: unknown[] }, make: () => Promise<T[]>) => Promise<T[]>
}

/** Tables that a statement reads, each once. */
const tablesIn = (sql: string): string[] => [
  ...new Set([...sql.matchAll(/\b(?:from|join) "(\w+)"/gi)].map(([, name]) => name!)),
]

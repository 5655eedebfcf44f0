import type { Client } from '@libsql/client'

const MOST_KEPT = 24

export interface Versions {
  /** Moves with every change of the database. */
  version: number
  /** Of the tables that overviews read whole. */
  tables: ReadonlyMap<string, number>
}

/** Bodies that are given out as they are until something changes: nobody writes to them. */
const bodies = new WeakSet<object>()
export const isKeptAnswer = (body: object): boolean => bodies.has(body)

/** @param reader a connection by which nothing is written: its `data_version` moves with every change of another */
export async function versionsOf(reader: Client): Promise<Versions> {
  const { rows } = await reader.execute('select name, version, data_version from table_version, pragma_data_version')
  return {
    version: Number(rows[0]!['data_version']),
    tables: new Map(rows.map(r => [String(r['name']), Number(r['version'])])),
  }
}

/**
 * Answers that thousands of rows stand behind, kept until anything in the database changes; who asks the same at the
 * same time waits for the same answer. What is given out is not to be changed.
 */
export class KeptAnswers {
  private readonly kept = new Map<string, { version: number; answer: Promise<unknown> }>()

  /** @param versions what was counted of changes, when an answer is asked for */
  constructor(private readonly versions: () => Promise<Versions>) {}

  async answer<T>(key: string, make: (tables: Versions['tables']) => Promise<T>): Promise<T> {
    const { version, tables } = await this.versions()
    const before = this.kept.get(key)
    if (before?.version === version) return before.answer as Promise<T>
    const answer = make(tables).then(body => {
      if (typeof body === 'object' && body !== null) bodies.add(body)
      return body
    })
    this.kept.delete(key)
    this.kept.set(key, { version, answer })
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!)
    // What failed is asked anew, unless somebody already did.
    answer.catch(() => this.kept.get(key)?.answer === answer && this.kept.delete(key))
    return answer
  }
}

import type { Client } from '@libsql/client'

const MOST_KEPT = 24

/**
 * Answers that thousands of rows stand behind, kept until anything in the database changes; who asks the same at the
 * same time waits for the same answer. What is given out is not to be changed.
 */
export class KeptAnswers {
  private readonly kept = new Map<string, { version: number; answer: Promise<unknown> }>()

  /** @param reader a connection by which nothing is written: its `data_version` moves with every change of another */
  constructor(private readonly reader: Client) {}

  async answer<T>(key: string, make: () => Promise<T>): Promise<T> {
    const version = Number((await this.reader.execute('PRAGMA data_version')).rows[0]![0])
    const before = this.kept.get(key)
    if (before?.version === version) return before.answer as Promise<T>
    const answer = make()
    this.kept.delete(key)
    this.kept.set(key, { version, answer })
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!)
    // What failed is asked anew, unless somebody already did.
    answer.catch(() => this.kept.get(key)?.answer === answer && this.kept.delete(key))
    return answer
  }
}

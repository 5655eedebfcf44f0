import { mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { createClient, type Client, type ResultSet } from '@libsql/client'
import { drizzle } from 'drizzle-orm/libsql'
import type { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core'
import * as schema from '../schema'
import { KeptAnswers, versionsOf } from './keptAnswers'
import { KeptRows, type RowsNow } from './keptRows'

/** What queries need: a connection or a transaction on one. */
export type Db = BaseSQLiteDatabase<'async', ResultSet, typeof schema>

export type Connection = Db & { $client: Client }

const PAGE_SIZE = 65_536
const BUSY_TIMEOUT_MS = 10_000

/** Opens one connection. Page size counts only before the first table; the other settings are per connection. */
export async function openConnection(url: string, o: { readOnly?: boolean } = {}): Promise<Connection> {
  if (url.startsWith('file:')) mkdirSync(dirname(url.slice('file:'.length)), { recursive: true })
  const client = createClient({ url, concurrency: 1, timeout: BUSY_TIMEOUT_MS })
  const settings = [
    `page_size=${PAGE_SIZE}`,
    'journal_mode=WAL',
    'synchronous=NORMAL',
    `busy_timeout=${BUSY_TIMEOUT_MS}`,
    'foreign_keys=ON',
    ...(o.readOnly ? ['query_only=ON'] : []),
  ]
  for (const s of settings) await client.execute(`PRAGMA ${s}`)
  return drizzle(client, { schema })
}

/**
 * The database as the server holds it: one connection that writes, one transaction after the other, and one that
 * only reads, so that a request never sees half a change.
 */
export class Database {
  private queue: Promise<unknown> = Promise.resolve()
  private readonly answers: KeptAnswers
  private readonly keptRows = new KeptRows()

  private constructor(
    readonly url: string,
    private readonly writer: Connection,
    private readonly reader: Connection,
  ) {
    this.answers = new KeptAnswers(() => versionsOf(reader.$client))
  }

  static async open(url: string): Promise<Database> {
    const writer = await openConnection(url)
    return new Database(url, writer, await openConnection(url, { readOnly: true }))
  }

  /** Runs `change` in a transaction of its own; whatever it throws undoes it all. */
  write<T>(change: (db: Db) => Promise<T>): Promise<T> {
    const turn = this.queue.then(() => this.inTransaction(change))
    this.queue = turn.catch(() => undefined)
    return turn
  }

  private async inTransaction<T>(change: (db: Db) => Promise<T>): Promise<T> {
    let first: unknown
    try {
      return await this.writer.transaction(
        db =>
          change(db).catch((e: unknown) => {
            first = e
            throw e
          }),
        { behavior: 'immediate' },
      )
    } catch (e) {
      // A full disk ends the transaction by itself; that it cannot be undone once more is not the news.
      throw first ?? e
    }
  }

  /** What `make` finds, kept under its name until something changes; its rows are read where their tables changed. */
  kept<T>(key: string, make: (rows: RowsNow) => Promise<T>): Promise<T> {
    return this.answers.answer(key, tables => make(this.keptRows.at(tables)))
  }

  get read(): Db {
    return this.reader
  }

  /** For migrations only. */
  get client(): Client {
    return this.writer.$client
  }

  close(): void {
    this.reader.$client.close()
    this.writer.$client.close()
  }
}

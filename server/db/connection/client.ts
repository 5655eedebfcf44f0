import { mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { createClient, type Client, type ResultSet } from '@libsql/client'
import { drizzle } from 'drizzle-orm/libsql'
import type { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core'
import * as schema from '../schema'
import { HypometError } from '@hypomet/core'
import { KeptAnswers, versionsOf } from './keptAnswers'
import { KeptRows, type RowsNow } from './keptRows'
import { storeCode, storeTrouble } from './trouble'

/** What queries need: a connection or a transaction on one. */
export type Db = BaseSQLiteDatabase<'async', ResultSet, typeof schema>

export type Connection = Db & { $client: Client }

const PAGE_SIZE = 65_536
/** A thread that does nothing else may wait so long for a lock, ms. */
const BUSY_TIMEOUT_MS = 10_000

interface ConnectionOptions {
  readOnly?: boolean
  busyMs?: number
  isDurable?: boolean
}

/**
 * Opens one connection. Page size counts only before the first table; the other settings are per connection.
 *
 * @param o.busyMs  how long it stands still for another program's lock; nothing else goes on meanwhile
 * @param o.isDurable  whether each transaction waits for the disk, so that a power cut takes none
 */
export async function openConnection(url: string, o: ConnectionOptions = {}): Promise<Connection> {
  if (url.startsWith('file:')) mkdirSync(dirname(url.slice('file:'.length)), { recursive: true })
  const { busyMs = BUSY_TIMEOUT_MS } = o
  const client = createClient({ url, concurrency: 1, timeout: busyMs })
  const settings = [
    `page_size=${PAGE_SIZE}`,
    'journal_mode=WAL',
    `synchronous=${o.isDurable ? 'FULL' : 'NORMAL'}`,
    `busy_timeout=${busyMs}`,
    'foreign_keys=ON',
    ...(o.readOnly ? ['query_only=ON'] : []),
  ]
  for (const s of settings) await client.execute(`PRAGMA ${s}`)
  return drizzle(client, { schema })
}

/** Longer than that nothing stands still on the server's own thread for another program's lock, ms. */
const SHORTLY_MS = 5
const READ_ONLY_NOW =
  'A page of the database cannot be read: nothing is saved until the newest backup has been restored.'

type Tried<T> =
  | { value: T }
  | {
      problem: unknown
      hasBegun: boolean
      /** Somebody took the lock between the question and the transaction. */
      wasRefused: boolean
    }

/** Growing waits between tries, ms. */
function waits(): () => number {
  let ms = 5
  return () => (ms = Math.min(100, 1.5 * ms))
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
    private writer: Connection,
    private readonly reader: Connection,
    private readonly isDurable: boolean,
  ) {
    this.answers = new KeptAnswers(() => versionsOf(reader.$client))
  }

  static async open(url: string, { isDurable = false } = {}): Promise<Database> {
    const writer = await openConnection(url, { isDurable })
    const reader = await openConnection(url, { readOnly: true, busyMs: SHORTLY_MS })
    // From here on whoever waits for a lock lets others go on.
    await writer.$client.execute(`PRAGMA busy_timeout=${SHORTLY_MS}`)
    return new Database(url, writer, reader, isDurable)
  }

  /** Set once a page was found that cannot be read: what is whole is shown, and nothing is written any more. */
  isDamaged = false

  /** Runs `change` in a transaction of its own; whatever it throws undoes it all. */
  write<T>(change: (db: Db) => Promise<T>): Promise<T> {
    const turn = this.queue.then(() => this.inTransaction(change))
    this.queue = turn.catch(() => undefined)
    return turn
  }

  private async inTransaction<T>(change: (db: Db) => Promise<T>): Promise<T> {
    for (const until = performance.now() + BUSY_TIMEOUT_MS, wait = waits(); ;) {
      if (this.isDamaged) throw new HypometError('store-damaged', READ_ONLY_NOW)
      const done = await this.tried(change)
      if ('value' in done) return done.value
      if (done.hasBegun || storeCode(done.problem) !== 'SQLITE_BUSY' || performance.now() > until) {
        if (storeCode(done.problem) === 'SQLITE_CORRUPT') this.isDamaged = true
        throw storeTrouble(done.problem) ?? done.problem
      }
      // Another program is at it: others go on meanwhile.
      if (done.wasRefused) await this.renewWriter()
      await new Promise(resolve => setTimeout(resolve, wait()))
    }
  }

  private async tried<T>(change: (db: Db) => Promise<T>): Promise<Tried<T>> {
    let first: unknown
    let hasBegun = false
    let isFree = false
    try {
      // A transaction that was refused would be in the way of the next one's end: a lock is asked for before.
      if (this.url.startsWith('file:')) await this.writer.$client.executeMultiple('BEGIN IMMEDIATE; ROLLBACK')
      isFree = true
      const value = await this.writer.transaction(
        db => {
          hasBegun = true
          return change(db).catch((e: unknown) => {
            first = e
            throw e
          })
        },
        { behavior: 'immediate' },
      )
      return { value }
    } catch (e) {
      // A full disk ends the transaction by itself; that it cannot be undone once more is not the news.
      return { problem: first ?? e, hasBegun, wasRefused: isFree && !hasBegun }
    }
  }

  private async renewWriter(): Promise<void> {
    const before = this.writer
    this.writer = await openConnection(this.url, { busyMs: SHORTLY_MS, isDurable: this.isDurable })
    before.$client.close()
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

  /** Writes the log into the database file, so that the file alone is all of it; others that read may be in the way. */
  settle(): Promise<void> {
    const turn = this.queue.then(
      async () => void (await this.writer.$client.execute('PRAGMA wal_checkpoint(TRUNCATE)')),
    )
    this.queue = turn.catch(() => undefined)
    return turn
  }

  close(): void {
    this.reader.$client.close()
    this.writer.$client.close()
  }
}

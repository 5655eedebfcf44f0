import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Database, openConnection } from '../db/connection/client'
import { migrate, type MigrationSource } from '../db/connection/migrate'
import { Originals } from '../db/connection/originals'
import { lookOverHere, meansHere } from '../jobs/healthThreads'
import { parsedHere } from '../ingest/parseBlock'
import { handlers, type JobKind, type PayloadOf, type ResultOf } from '../jobs/handlers'
import { type JobContext } from '../jobs/context'

const MIGRATIONS = join(import.meta.dirname, '../db/migrations')

const source: MigrationSource = {
  journal: () =>
    Promise.resolve(
      JSON.parse(readFileSync(join(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
        entries: { tag: string; when: number }[]
      },
    ),
  sql: tag => Promise.resolve(readFileSync(join(MIGRATIONS, `${tag}.sql`), 'utf8')),
}

/**
 * A fresh database in a temporary folder, or one that an earlier build left, with the job handlers run in this thread.
 */
export async function temporaryDatabase(earlier?: Uint8Array) {
  const folder = mkdtempSync(join(tmpdir(), 'hypomet-server-'))
  const url = `file:${join(folder, 'test.db')}`
  if (earlier) writeFileSync(join(folder, 'test.db'), earlier)
  const open = async () => {
    const database = await Database.open(url)
    await migrate(database.client, source)
    return database
  }
  const database = await open()
  const originals = new Originals(join(folder, 'originals'))
  const worker = await openConnection(url)
  const run = <K extends JobKind>(
    kind: K,
    payload: PayloadOf<K>,
    context: Partial<JobContext> = {},
  ): Promise<ResultOf<K>> =>
    (handlers[kind] as (c: object, p: unknown) => Promise<ResultOf<K>>)(
      {
        db: worker,
        originals,
        progress: () => {},
        parsers: parsedHere,
        lookOver: lookOverHere(worker),
        meansOfSteps: meansHere(worker),
        check: () => {},
        ...context,
      },
      payload,
    )
  return {
    url,
    path: join(folder, 'test.db'),
    migrations: source,
    database,
    originals,
    worker,
    run,
    reopen: open,
    close: () => (database.close(), worker.$client.close(), rmSync(folder, { recursive: true, force: true })),
  }
}

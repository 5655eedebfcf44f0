import { existsSync, statSync } from 'node:fs'
import { readdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Client } from '@libsql/client'
import { HypometError } from '@hypomet/core'
import type { MigrationSource } from './migrate'
import { storeTrouble } from './trouble'

/** More than that is not read through at every start, bytes; `--check` does. */
const MOST_CHECKED = 4 * 1024 ** 3

/** A database as it is found, before anything is changed in it. */
export interface Found {
  /** Changes of form that it has had, and that this program knows. */
  schema: number
  known: number
}

/**
 * Looks at a database before anything is changed in it.
 *
 * @throws HypometError `schema-newer` where a newer program has written it, `store-damaged` where a page cannot be read
 */
export async function lookAt(
  client: Client,
  source: MigrationSource,
  { path, isFull = false }: { path: string | null; isFull?: boolean },
): Promise<Found> {
  try {
    const { entries } = await source.journal()
    const known = entries.length
    const { rows } = await client.execute(
      "select count(*) n from sqlite_master where type = 'table' and name = '__drizzle_migrations'",
    )
    if (Number(rows[0]!['n']) === 0) return { schema: 0, known }
    const seen = await client.execute('select count(*) n, max(created_at) newest from __drizzle_migrations')
    const [schema, newest] = [Number(seen.rows[0]!['n']), Number(seen.rows[0]!['newest'])]
    if (newest > Math.max(...entries.map(e => e.when)))
      throw new HypometError(
        'schema-newer',
        `This database is of a newer Hypomet: its form is number ${schema}, this program knows those up to ${known}. ` +
          'Start the newer one, or restore a backup of before.',
      )
    await assertReadable(client, path, isFull)
    return { schema, known }
  } catch (e) {
    throw storeTrouble(e) ?? e
  }
}

async function assertReadable(client: Client, path: string | null, isFull: boolean): Promise<void> {
  if (path === null || (!isFull && statSync(path).size > MOST_CHECKED)) return
  const { rows } = await client.execute(isFull ? 'PRAGMA integrity_check(3)' : 'PRAGMA quick_check(3)')
  const said = rows.map(r => String(Object.values(r)[0]))
  if (said.length === 1 && said[0] === 'ok') return
  throw new HypometError(
    'store-damaged',
    `${path} is damaged: ${said.join('; ').replace(/\s+/g, ' ').slice(0, 300)}. Restore the newest backup; the ` +
      'file is left as it is.',
  )
}

/** A copy of a whole database, as it is at this moment. @throws HypometError `store-full`, `store-read-only` */
export async function copyTo(client: Client, path: string): Promise<void> {
  try {
    await client.execute({ sql: 'VACUUM INTO ?', args: [path] })
  } catch (e) {
    await rm(path, { force: true })
    throw storeTrouble(e) ?? e
  }
}

/** Where the copy goes that is made before a database changes its form. */
export const copyBefore = (path: string, { schema }: Found): string =>
  path.replace(/(\.db)?$/, `.before-form-${schema + 1}.db`)

/** Takes away what uploads left half done. */
export async function sweepParts(folder: string): Promise<number> {
  if (!existsSync(folder)) return 0
  const parts = (await readdir(folder, { recursive: true })).filter(name => name.endsWith('.part'))
  for (const name of parts) await rm(join(folder, name), { force: true })
  return parts.length
}

/** An original that its folder has no more, and the tests that rest on it. */
export interface MissingOriginal {
  sha256: string
  name: string
  testId: number | null
}

/** Originals of records and attachments that are not in their folder. */
export async function missingOriginals(client: Client, pathOf: (sha256: string) => string): Promise<MissingOriginal[]> {
  const { rows } = await client.execute(
    `select sha256, name, test_id from dataset where source = 'file' and sha256 is not null
     union all select sha256, name, null from attachment`,
  )
  const isThere = new Map<string, boolean>()
  return rows.flatMap(r => {
    const sha256 = String(r['sha256'])
    if (!isThere.has(sha256)) isThere.set(sha256, existsSync(pathOf(sha256)))
    const testId = r['test_id'] === null ? null : Number(r['test_id'])
    return isThere.get(sha256) ? [] : [{ sha256, name: String(r['name']), testId }]
  })
}

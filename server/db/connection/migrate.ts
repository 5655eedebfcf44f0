import { createHash } from 'node:crypto'
import type { Client } from '@libsql/client'

/** Where the generated SQL comes from: the server's bundled assets, or a folder in tests. */
export interface MigrationSource {
  journal(): Promise<{ entries: { tag: string; when: number }[] }>
  sql(tag: string): Promise<string>
}

/** Applies what is missing, each migration in one transaction. Compatible with drizzle's own bookkeeping table. */
export async function migrate(client: Client, source: MigrationSource): Promise<number> {
  await client.execute(
    'CREATE TABLE IF NOT EXISTS __drizzle_migrations (id SERIAL PRIMARY KEY, hash text NOT NULL, created_at numeric)',
  )
  const last = (await client.execute('SELECT created_at FROM __drizzle_migrations ORDER BY created_at DESC LIMIT 1'))
    .rows[0]
  let applied = 0
  for (const { tag, when } of (await source.journal()).entries) {
    if (last && Number(last['created_at']) >= when) continue
    const text = await source.sql(tag)
    const statements = text
      .split('--> statement-breakpoint')
      .map(s => s.trim())
      .filter(Boolean)
    const hash = createHash('sha256').update(text).digest('hex')
    await client.migrate([
      ...statements,
      { sql: 'INSERT INTO __drizzle_migrations (hash, created_at) VALUES (?, ?)', args: [hash, when] },
    ])
    applied++
  }
  return applied
}

import { hostname } from 'node:os'
import type { Client } from '@libsql/client'
import { HypometError } from '@hypomet/core'

/** A database on a server of its own that is ours, as long as we say so. */
export interface Lease {
  release(): Promise<void>
}

const RENEW_MS = 5000
/** One that was not renewed for so long belongs to nobody, s, by the database's own clock. */
const LAPSES_S = 15

/** This Hypomet among those of all machines: its front where it has one, so that pages begun anew find their own. */
export const holderHere = (): string =>
  `process ${process.env['HYPOMET_BEHIND_FRONT'] ? process.ppid : process.pid} on ${hostname()}`

/**
 * Takes a database that lies on a server: a row that is renewed says who has it. One that is not renewed any more is
 * taken over.
 *
 * @param o.lost  told once where another has taken it, or where it could not be renewed in time
 * @throws HypometError `database-held`
 */
export async function takeLease(
  client: Client,
  { holder = holderHere(), renewMs = RENEW_MS, lost }: { holder?: string; renewMs?: number; lost(why: string): void },
): Promise<Lease> {
  await client.execute(
    'create table if not exists lease (id integer primary key, holder text not null, since integer not null, ' +
      'renewed integer not null)',
  )
  const { rowsAffected } = await client.execute({
    sql:
      'insert into lease (id, holder, since, renewed) values (1, ?1, unixepoch(), unixepoch()) on conflict (id) do ' +
      'update set holder = ?1, since = unixepoch(), renewed = unixepoch() ' +
      `where holder = ?1 or renewed < unixepoch() - ${LAPSES_S}`,
    args: [holder],
  })
  if (rowsAffected === 0) throw await held(client)
  let renewed = performance.now()
  const end = (why: string) => {
    clearInterval(timer)
    lost(why)
  }
  const renew = async () => {
    try {
      const sql = 'update lease set renewed = unixepoch() where id = 1 and holder = ?'
      const done = await client.execute({ sql, args: [holder] })
      if (done.rowsAffected === 0) return end('Another Hypomet has taken the database over.')
      renewed = performance.now()
    } catch (e) {
      if (performance.now() - renewed > 1000 * LAPSES_S)
        end(`The database has not answered for ${LAPSES_S} s, and may be another's by now: ${(e as Error).message}`)
    }
  }
  const timer = setInterval(() => void renew(), renewMs).unref()
  return {
    async release() {
      clearInterval(timer)
      await client.execute({ sql: 'delete from lease where holder = ?', args: [holder] })
    },
  }
}

async function held(client: Client): Promise<HypometError> {
  const { rows } = await client.execute("select holder, datetime(since, 'unixepoch') as since from lease")
  return new HypometError(
    'database-held',
    `The database is open in another Hypomet: ${String(rows[0]?.['holder'])}, since ${String(rows[0]?.['since'])} UTC` +
      `. Stop that one first; where it is gone it can be taken over after ${LAPSES_S} s.`,
  )
}

import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { count, desc, eq, lte } from 'drizzle-orm'
import * as z from 'zod'
import type { Db } from './client'
import { audit } from '../schema'

/**
 * How long the audit chain was and what it ended with, signed with a key that is in no database: whoever cuts the
 * chain's tail or writes it anew cannot make this anew.
 */
export const auditHead = z.object({
  count: z.number().int().min(0),
  id: z.number().int(),
  hash: z.string().max(200),
  at: z.string().max(40),
  mac: z.string().regex(/^[0-9a-f]{64}$/, 'A signature has 64 digits.'),
})
export type AuditHead = z.output<typeof auditHead>

/** An export’s member, and the header of one that has no place for it. */
export const HEAD_HEADER = 'x-audit-head'

/** Heads of a chain from its first day on: one an hour, and the newest. */
interface KeptHeads {
  hourly: AuditHead[]
  newest: AuditHead | null
}

const HOUR = 3_600_000
const MOST_KEPT = 5000

/** Heads and their key, in files beside a database. */
export class AuditHeads {
  private readonly key: Buffer
  private kept: KeptHeads

  constructor(
    private readonly path: string,
    keyPath: string,
  ) {
    this.key = keyAt(keyPath)
    this.kept = readHeads(path)
  }

  static beside(database: string): AuditHeads {
    return new AuditHeads(`${database}.heads`, `${database}.key`)
  }

  get newest(): AuditHead | null {
    return this.kept.newest
  }

  get all(): AuditHead[] {
    const { hourly, newest } = this.kept
    return newest && JSON.stringify(newest) !== JSON.stringify(hourly.at(-1)) ? [...hourly, newest] : hourly
  }

  isOurs({ mac, ...head }: AuditHead): boolean {
    const own = Buffer.from(this.macOf(head), 'hex')
    const said = Buffer.from(mac, 'hex')
    return own.length === said.length && timingSafeEqual(own, said)
  }

  /**
   * Takes down where the chain ends now, where it goes on from the head before; a chain that does not is left as it was
   * seen last.
   */
  async note(db: Db): Promise<AuditHead | null> {
    const [last] = await db.select({ id: audit.id, hash: audit.hash }).from(audit).orderBy(desc(audit.id)).limit(1)
    if (!last || last.id === this.newest?.id) return this.newest
    if (await headTrouble(db, this.newest)) return this.newest
    const [{ n }] = (await db.select({ n: count() }).from(audit)) as [{ n: number }]
    const said = { count: n, id: last.id, hash: last.hash, at: new Date().toISOString() }
    const head = { ...said, mac: this.macOf(said) }
    const before = this.kept.hourly.at(-1)
    const isNext = !before || Date.parse(head.at) - Date.parse(before.at) >= HOUR
    this.kept = { hourly: isNext ? [...this.kept.hourly, head].slice(-MOST_KEPT) : this.kept.hourly, newest: head }
    mkdirSync(dirname(this.path), { recursive: true })
    writeFileSync(`${this.path}.new`, JSON.stringify(this.kept))
    renameSync(`${this.path}.new`, this.path)
    return head
  }

  private macOf(head: Omit<AuditHead, 'mac'>): string {
    const { count: n, id, hash, at } = head
    return createHmac('sha256', this.key).update([n, id, hash, at].join(' ')).digest('hex')
  }
}

/** Why a chain does not go on from a head of its own; null where it does. */
export async function headTrouble(db: Db, head: AuditHead | null): Promise<string | null> {
  if (!head) return null
  const [entry] = await db.select({ hash: audit.hash }).from(audit).where(eq(audit.id, head.id))
  const then = `On ${head.at} the audit trail had ${head.count.toLocaleString('en')} entries`
  if (!entry) return `${then}; entry ${head.id}, its last, is gone.`
  if (entry.hash !== head.hash) return `${then}; entry ${head.id}, its last, has been written anew.`
  const [{ n }] = (await db.select({ n: count() }).from(audit).where(lte(audit.id, head.id))) as [{ n: number }]
  return n === head.count ? null : `${then}; ${n.toLocaleString('en')} of them are there.`
}

function keyAt(path: string): Buffer {
  if (!existsSync(path)) {
    mkdirSync(dirname(path), { recursive: true })
    try {
      writeFileSync(path, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' })
    } catch (e) {
      // Another thread was quicker: it is one key.
      if ((e as NodeJS.ErrnoException).code !== 'EEXIST') throw e
    }
  }
  return Buffer.from(readFileSync(path, 'utf8').trim(), 'hex')
}

function readHeads(path: string): KeptHeads {
  try {
    const { hourly, newest } = JSON.parse(readFileSync(path, 'utf8')) as Partial<KeptHeads>
    return { hourly: hourly ?? [], newest: newest ?? null }
  } catch {
    return { hourly: [], newest: null }
  }
}

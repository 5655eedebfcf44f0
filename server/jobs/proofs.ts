import { createWriteStream } from 'node:fs'
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { HypometError } from '@hypomet/core'
import { audit } from '../db/connection/audit'
import { AuditHeads, headTrouble, type AuditHead } from '../db/connection/auditHead'
import { backupOf } from '../db/connection/backup'
import type { Database } from '../db/connection/client'
import type { MissingOriginal } from '../db/connection/condition'
import { trailState, versionOf } from '../db/proofs/state'
import type { Verified } from '../db/proofs/verify'
import type { BackupSchedule } from '../environment'
import { SOFTWARE_VERSION } from '../version'
import { recompute } from './recompute'
import type { JobRunner } from './runner'

const HEAD_MS = 1000
const IDLE_MS = 60_000
const LOOK_MS = 600_000
const HOUR = 3_600_000
const BACKUP = /^hypomet-\d{4}-\d{2}-\d{2}T[\d-]+\.tar$/

interface Kept {
  database: Database
  jobs: JobRunner
  /** Of the database file; null where it is on a server of its own. */
  path: string | null
  originals: string
  missing: readonly MissingOriginal[]
  schedule: BackupSchedule | null
}

/** Heads of the audit trail, verifications and backups. */
export class Proofs {
  private readonly heads: AuditHeads | null
  private readonly timers: NodeJS.Timeout[] = []
  /** Why the trail does not go on from the last head; then none is taken down any more. */
  private trouble: string | null = null
  private lastProblem: string | null = null
  private isMaking = false

  constructor(private readonly of: Kept) {
    this.heads = of.path === null ? null : AuditHeads.beside(of.path)
  }

  /** Looks whether the trail is where it was left, and takes heads and backups from now on. */
  async begin(): Promise<void> {
    this.trouble = await headTrouble(this.of.database.read, this.heads?.newest ?? null)
    if (this.trouble) console.warn(`${this.trouble} “Records and proofs” says more.`)
    const every = (ms: number, what: () => Promise<unknown>) =>
      this.timers.push(setInterval(() => void what().catch((e: unknown) => console.error(e)), ms).unref())
    every(HEAD_MS, () => this.note())
    every(IDLE_MS, () => this.settleIfIdle())
    if (this.of.schedule) {
      every(LOOK_MS, () => this.makeIfDue())
      void this.makeIfDue().catch((e: unknown) => console.error(e))
    }
  }

  async note(): Promise<void> {
    if (this.trouble === null) await this.heads?.note(this.of.database.read)
  }

  /** Where the trail ends as something is exported: whoever has it can say later that more is missing than his. */
  async head(): Promise<AuditHead | null> {
    await this.note()
    return this.heads?.newest ?? null
  }

  /** After a while in which nothing was written the log is empty, so that whoever copies the file has all of it. */
  private async settleIfIdle(): Promise<void> {
    const { read } = this.of.database
    const now = await versionOf(read)
    const isIdle = this.lastVersion === now && !this.isSettled
    this.isSettled = isIdle || (this.isSettled && this.lastVersion === now)
    this.lastVersion = now
    if (isIdle) await this.of.database.settle()
  }
  private lastVersion: number | undefined
  private isSettled = false

  async stop(): Promise<void> {
    for (const t of this.timers) clearInterval(t)
    await this.note().catch(() => undefined)
  }

  /** What is known of records, originals and backups. */
  async state() {
    const { database, path, missing, schedule } = this.of
    const files = schedule ? await backupsIn(schedule.folder) : []
    const age = files[0] ? Date.now() - Date.parse(files[0].at) : Infinity
    return {
      ...(await trailState(database.read)),
      head: this.heads?.newest ?? null,
      trouble: await headTrouble(database.read, this.heads?.newest ?? null),
      isDamaged: database.isDamaged,
      path,
      files: path === null ? [] : await filesTogether(path),
      originals: this.of.originals,
      missing: [...missing],
      backups: schedule
        ? { ...schedule, made: files, isLate: age > 1.5 * schedule.hours * HOUR, problem: this.lastProblem }
        : null,
    }
  }

  /** Starts a verification; what it found goes into the audit trail. */
  /** @param o.heads  that exports carried */
  verify(
    by: string,
    { slug, isRecomputed, heads }: { slug: string | null; isRecomputed: boolean; heads: AuditHead[] },
  ): Promise<number> {
    const { database, jobs, path } = this.of
    const withDigits = async (found: Verified): Promise<Verified> => {
      if (!isRecomputed) return found
      const { findings, recomputed } = await recompute(database.read, slug, asked => jobs.call('reduce', asked))
      return { ...found, findings: [...found.findings, ...findings], recomputed }
    }
    return jobs.start(
      'verify',
      { path, slug, heads },
      {
        then: async looked => {
          const found = await withDigits(looked)
          const { at: _, ...after } = found
          await database.write(db =>
            audit(db, { who: by, what: 'verify', entity: 'database', entityId: null, after: { slug, ...after } }),
          )
          return found
        },
      },
    )
  }

  /** A backup as it is now. @throws HypometError `not-supported` where the database is on a server of its own */
  async backup() {
    const { path, originals, jobs } = this.of
    if (path === null)
      throw new HypometError(
        'not-supported',
        'The database is on a server of its own, which is backed up by its own means.',
      )
    await this.note()
    const head = this.heads?.newest ?? null
    const copyInto = (to: string) => jobs.call('copy', { path: to })
    return backupOf(`file:${path}`, { originals, software: SOFTWARE_VERSION, head, copyInto })
  }

  /** A backup into the folder for them, and the oldest of too many away. */
  async make(): Promise<string> {
    const { schedule } = this.of
    if (!schedule)
      throw new HypometError('not-supported', 'No folder for backups is named: HYPOMET_BACKUPS names it at the start.')
    if (this.isMaking) throw new HypometError('still-running', 'A backup is being made.')
    this.isMaking = true
    try {
      await mkdir(schedule.folder, { recursive: true })
      const { manifest, archive } = await this.backup()
      const name = `hypomet-${manifest.at.slice(0, 19).replaceAll(':', '-')}.tar`
      const path = join(schedule.folder, name)
      await pipeline(archive, createWriteStream(`${path}.part`))
      await rename(`${path}.part`, path)
      for (const old of (await backupsIn(schedule.folder)).slice(schedule.keep))
        await rm(join(schedule.folder, old.name))
      this.lastProblem = null
      return name
    } catch (e) {
      this.lastProblem = (e as Error).message
      throw e
    } finally {
      this.isMaking = false
    }
  }

  private async makeIfDue(): Promise<void> {
    const { schedule } = this.of
    const [newest] = schedule ? await backupsIn(schedule.folder) : []
    const isDue = !newest || Date.now() - Date.parse(newest.at) >= schedule!.hours * HOUR
    if (schedule && isDue && !this.isMaking) await this.make()
  }
}

/** Backups in a folder, newest first. */
async function backupsIn(folder: string): Promise<{ name: string; at: string; size: number }[]> {
  const names = (await readdir(folder).catch(() => []))
    .filter(n => BACKUP.test(n))
    .sort()
    .reverse()
  return Promise.all(
    names.map(async name => {
      const { size, mtime } = await stat(join(folder, name))
      return { name, at: mtime.toISOString(), size }
    }),
  )
}

/** The files that belong to a database, all of which go where it goes. */
async function filesTogether(path: string): Promise<{ name: string; size: number }[]> {
  const found = await Promise.all(
    ['', '-wal', '-shm', '.heads', '.key'].map(async end => {
      const size = await stat(path + end).then(
        s => s.size,
        () => null,
      )
      return size === null ? [] : [{ name: path + end, size }]
    }),
  )
  return found.flat()
}

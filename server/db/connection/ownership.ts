import { closeSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, writeSync } from 'node:fs'
import { dirname, resolve } from 'node:path'
import { randomUUID } from 'node:crypto'
import { HypometError } from '@hypomet/core'

/** Who has a database open. */
interface Holder {
  pid: number
  /** When that process began, as its system counts; null where the system does not say. */
  began: string | null
  at: string
}

/** A database that is ours until we give it up. */
export interface Ownership {
  release(): void
}

const TRIES = 20

/**
 * Takes a database file for this process: a lock file beside it names who holds it. One whose process is gone, or whose
 * number another process has now, is taken over.
 *
 * @param url  `file:…`; a database server looks after its own
 * @throws HypometError `database-held` where another Hypomet has it open, `store-read-only`
 */
export function takeDatabase(url: string): Ownership {
  const lock = lockOf(url)
  if (lock === null) return { release: () => undefined }
  const mine: Holder = { pid: process.pid, began: beganOf(process.pid), at: new Date().toISOString() }
  for (let n = 0; n < TRIES; n++) {
    if (written(lock, mine)) return { release: () => giveUp(lock, mine) }
    const holder = holderOf(lock)
    // Somebody is about to write who they are, or has just gone.
    if (holder === null) waitShortly()
    else if (isThere(holder)) throw held(url, holder)
    else takeAway(lock, holder)
  }
  throw new HypometError(
    'database-held',
    `${lock} says nothing of who has the database open: take it away if nobody has.`,
  )
}

const lockOf = (url: string): string | null =>
  url.startsWith('file:') && !url.includes(':memory:') ? `${resolve(url.slice('file:'.length))}.lock` : null

function held(url: string, { pid, at }: Holder): HypometError {
  const since = new Date(at).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
  return new HypometError(
    'database-held',
    `${url.slice('file:'.length)} is open in another Hypomet: process ${pid}, since ${since}. Stop that one ` +
      'first, or start this one with another folder.',
  )
}

function written(lock: string, mine: Holder): boolean {
  try {
    mkdirSync(dirname(lock), { recursive: true })
    const file = openSync(lock, 'wx')
    writeSync(file, JSON.stringify(mine))
    closeSync(file)
    return true
  } catch (e) {
    const { code, message } = e as NodeJS.ErrnoException
    if (code === 'EEXIST') return false
    throw new HypometError('store-read-only', `${dirname(lock)} cannot be written to: ${message}.`)
  }
}

function holderOf(lock: string): Holder | null {
  try {
    const said = JSON.parse(readFileSync(lock, 'utf8')) as Partial<Holder>
    return typeof said.pid === 'number' ? { began: null, at: '', ...said, pid: said.pid } : null
  } catch {
    return null
  }
}

function isThere({ pid, began }: Holder): boolean {
  try {
    process.kill(pid, 0)
  } catch (e) {
    if ((e as NodeJS.ErrnoException).code !== 'EPERM') return false
  }
  const now = beganOf(pid)
  return began === null || now === null || began === now
}

/** When a process began, in ticks since its machine did: numbers of processes are used again. */
function beganOf(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null
  } catch {
    return null
  }
}

/** Of two that find the same stale lock one takes it away. */
function takeAway(lock: string, stale: Holder): void {
  const aside = `${lock}.${randomUUID()}`
  try {
    renameSync(lock, aside)
  } catch {
    return
  }
  const taken = holderOf(aside)
  // It was a new holder's, written in between: back with it.
  if (taken && taken.pid !== stale.pid && isThere(taken)) renameSync(aside, lock)
  else rmSync(aside, { force: true })
}

function giveUp(lock: string, mine: Holder): void {
  if (holderOf(lock)?.pid === mine.pid) rmSync(lock, { force: true })
}

const waitShortly = (): void => void Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 25)

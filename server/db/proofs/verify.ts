import { createHash } from 'node:crypto'
import { createReadStream, existsSync } from 'node:fs'
import { HypometError } from '@hypomet/core'
import { and, asc, desc, eq, gt, inArray, isNotNull } from 'drizzle-orm'
import * as z from 'zod'
import { breaksOf } from '../connection/audit'
import { auditHead, AuditHeads, headTrouble } from '../connection/auditHead'
import type { Db } from '../connection/client'
import { storeTrouble } from '../connection/trouble'
import { decodeChunk } from '../records/chunkCodec'
import { sumOf } from '../records/packedChunk'
import { digestOf } from '../results/digest'
import * as schema from '../schema'
import type { JobContext } from '../../jobs/context'

const { audit, article, attachment, campaign, channel, chunk, dataset, judgement, planVersion, reduction } = schema
const { revision, test } = schema

/** What a verification found that is not as it was written down. */
export interface ProofFinding {
  kind: 'audit trail' | 'original' | 'samples' | 'result' | 'signature'
  testId: number | null
  message: string
}

export interface Verified {
  at: string
  findings: ProofFinding[]
  /** What was looked at. */
  entries: number
  originals: number
  chunks: number
  reductions: number
  recomputed: number
  signatures: number
}

export const verifyPayload = z.object({
  /** Of the database file; null where it is on a server of its own. */
  path: z.string().nullable(),
  /** Of one campaign alone; the audit trail is looked at whole. */
  slug: z.string().nullable(),
  /** Carried by exports, wherever they have been meanwhile. */
  heads: z.array(auditHead).default([]),
})
export type VerifyPayload = z.output<typeof verifyPayload>

const MOST_FINDINGS = 1000

/** Holds all that is stored against what was written down of it. Changes nothing. */
export async function verify(context: JobContext, p: VerifyPayload): Promise<Verified> {
  const { db, progress, check } = context
  const tests = await testsOf(db, p.slug)
  const found: Verified = {
    at: new Date().toISOString(),
    findings: [],
    entries: 0,
    originals: 0,
    chunks: 0,
    reductions: 0,
    recomputed: 0,
    signatures: 0,
  }
  const say = (kind: ProofFinding['kind'], testId: number | null, message: string) => {
    if (found.findings.length < MOST_FINDINGS) found.findings.push({ kind, testId, message })
  }
  const parts = [
    ['the audit trail', () => trail(context, p, found, say)],
    ['originals', () => originalsOf(context, tests, found, say)],
    ['samples', () => samples(context, tests, found, say)],
    ['results', () => results(context, tests, found, say)],
    ['signatures', () => signatures(context, tests, found, say)],
  ] as const
  for (const [i, [what, look]] of parts.entries()) {
    check()
    progress(i / parts.length, what)
    try {
      await look()
    } catch (e) {
      const trouble = storeTrouble(e)
      if (!trouble) throw e
      say(what === 'samples' ? 'samples' : what === 'results' ? 'result' : 'audit trail', null, trouble.message)
    }
  }
  return found
}

type Say = (kind: ProofFinding['kind'], testId: number | null, message: string) => void

async function testsOf(db: Db, slug: string | null): Promise<number[] | null> {
  if (slug === null) return null
  const rows = await db
    .select({ id: test.id })
    .from(test)
    .innerJoin(revision, eq(test.revisionId, revision.id))
    .innerJoin(article, eq(revision.articleId, article.id))
    .innerJoin(campaign, eq(article.campaignId, campaign.id))
    .where(eq(campaign.slug, slug))
  if (rows.length === 0) throw new HypometError('not-found', `There is no campaign “${slug}” with a test.`)
  return rows.map(r => r.id)
}

async function trail(
  { db }: JobContext,
  { path, heads: exported }: VerifyPayload,
  found: Verified,
  say: Say,
): Promise<void> {
  const { entries, breaks } = await breaksOf(db)
  found.entries = entries
  for (const id of breaks)
    say(
      'audit trail',
      null,
      `Entry ${id} does not follow from the one before: it, or what stood before it, was changed.`,
    )
  if (path === null) return
  const heads = AuditHeads.beside(path)
  if (entries > 0 && heads.all.length === 0)
    say(
      'audit trail',
      null,
      'No head of the audit trail is kept beside the database: whether its end is there nobody knows.',
    )
  const seen = new Set<string>()
  for (const head of heads.all) {
    if (!heads.isOurs(head)) {
      say('audit trail', null, `The head of ${head.at} is not signed with the key of this place.`)
      continue
    }
    const trouble = await headTrouble(db, head)
    // A cut tail is one finding, not one for every hour since.
    if (trouble && !seen.has('cut')) say('audit trail', null, trouble)
    if (trouble) seen.add('cut')
  }
  for (const head of exported) {
    const trouble = heads.isOurs(head)
      ? await headTrouble(db, head)
      : `The export of ${head.at} carries a head that is not signed with the key of this place.`
    if (trouble) say('audit trail', null, heads.isOurs(head) ? `As an export says: ${trouble}` : trouble)
  }
}

async function originalsOf({ db, originals, check }: JobContext, tests: number[] | null, found: Verified, say: Say) {
  const files = await db
    .select({ sha256: dataset.sha256, name: dataset.name, testId: dataset.testId })
    .from(dataset)
    .where(
      and(eq(dataset.source, 'file'), isNotNull(dataset.sha256), ...(tests ? [inArray(dataset.testId, tests)] : [])),
    )
  const attached = tests ? [] : await db.select({ sha256: attachment.sha256, name: attachment.name }).from(attachment)
  const all = [...files, ...attached.map(a => ({ ...a, testId: null }))]
  const looked = new Map<string, string | null>()
  for (const { sha256, name, testId } of all) {
    check()
    if (!looked.has(sha256!)) {
      looked.set(sha256!, await troubleOfFile(originals.path(sha256!), sha256!))
      found.originals++
    }
    const trouble = looked.get(sha256!)
    if (trouble) say('original', testId, `The original of “${name}” ${trouble}.`)
  }
}

async function troubleOfFile(path: string, sha256: string): Promise<string | null> {
  if (!existsSync(path)) return 'is not in the folder of originals'
  const hash = createHash('sha256')
  for await (const piece of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(piece as Buffer)
  return hash.digest('hex') === sha256 ? null : 'has been changed: its bytes are others than were imported'
}

const CHANNELS_AT_ONCE = 200

async function samples({ db, check, progress }: JobContext, tests: number[] | null, found: Verified, say: Say) {
  const channels = await db
    .select({ id: channel.id, name: channel.name, role: channel.role, testId: dataset.testId, record: dataset.name })
    .from(channel)
    .innerJoin(dataset, eq(channel.datasetId, dataset.id))
    .where(tests ? inArray(dataset.testId, tests) : undefined)
    .orderBy(asc(channel.id))
  const byId = new Map(channels.map(c => [c.id, c]))
  for (let i = 0; i < channels.length; i += CHANNELS_AT_ONCE) {
    check()
    progress(0.4 + (0.2 * i) / channels.length, `samples of ${i} of ${channels.length} channels`)
    const ids = channels.slice(i, i + CHANNELS_AT_ONCE).map(c => c.id)
    for (const id of ids)
      for (const c of await db.select().from(chunk).where(eq(chunk.channelId, id)).orderBy(asc(chunk.seq))) {
        found.chunks++
        if (isWhole(c)) continue
        const { name, role, testId, record } = byId.get(id)!
        say(
          'samples',
          testId,
          `“${name || role}” of ${record}: samples from ${c.start} on are not those that were stored.`,
        )
      }
  }
}

/** By its checksum; what an earlier build stored by what it says of itself. */
function isWhole(c: typeof chunk.$inferSelect): boolean {
  if (c.sum !== null) return sumOf(c) === c.sum
  try {
    const known = decodeChunk(c.data, c.count).filter(v => !Number.isNaN(v))
    const [min, max] = [c.min ?? Infinity, c.max ?? -Infinity]
    return known.length === c.count - c.gaps && known.every(v => v >= min && v <= max)
  } catch {
    return false
  }
}

async function results(context: JobContext, tests: number[] | null, found: Verified, say: Say): Promise<void> {
  const { db, check } = context
  const rows = await db
    .select({
      id: reduction.id,
      testId: reduction.testId,
      outputSha256: reduction.outputSha256,
      by: reduction.by,
    })
    .from(reduction)
    .where(tests ? inArray(reduction.testId, tests) : undefined)
    .orderBy(desc(reduction.id))
  const written = await writtenDown(db, 'reduce')
  for (const { id, testId, outputSha256, by } of rows) {
    check()
    found.reductions++
    const [row] = await db.select().from(reduction).where(eq(reduction.id, id))
    if (digestOf(row!.output) !== outputSha256)
      say('result', testId, `Result ${id} is another than was kept: its digest does not fit.`)
    const entry = written.find(w => (w.after as { reductionId?: number } | null)?.reductionId === id)
    const said = (entry?.after as { outputSha256?: string } | undefined)?.outputSha256
    if (!entry) say('result', testId, `Result ${id} is in no entry of the audit trail.`)
    else if (said !== undefined && said !== outputSha256)
      say('result', testId, `Result ${id} has another digest than the audit trail wrote down.`)
    else if (entry.who !== by)
      say('signature', testId, `Result ${id} is kept by “${by}”; the audit trail has “${entry.who}”.`)
  }
}

/** Whether a row is as it was written down; what later builds added to it was not. */
const saysSame = (row: Record<string, unknown>, written: Record<string, unknown>): boolean =>
  Object.entries(written).every(([key, value]) => JSON.stringify(row[key] ?? null) === JSON.stringify(value ?? null))

/** Entries of the audit trail of one kind. */
const writtenDown = (db: Db, what: string) =>
  db
    .select({ who: audit.who, entityId: audit.entityId, after: audit.after })
    .from(audit)
    .where(and(eq(audit.what, what), gt(audit.id, 0)))

async function signatures({ db }: JobContext, tests: number[] | null, found: Verified, say: Say): Promise<void> {
  const judged = await db
    .select()
    .from(judgement)
    .where(tests ? inArray(judgement.testId, tests) : undefined)
  const written = new Map(
    (await writtenDown(db, 'judge')).map(w => [(w.after as { id?: number } | null)?.id, w] as const),
  )
  for (const row of judged) {
    found.signatures++
    const entry = written.get(row.id)
    if (!entry) say('signature', row.testId, `Judgement ${row.id} is in no entry of the audit trail.`)
    else if (entry.who !== row.by)
      say('signature', row.testId, `Judgement ${row.id} is signed “${row.by}”; the audit trail has “${entry.who}”.`)
    else if (!saysSame(row, entry.after as Record<string, unknown>))
      say('signature', row.testId, `Judgement ${row.id} says something else than was signed by ${row.by}.`)
  }
  const versions = await db
    .select({ testId: planVersion.testId, number: planVersion.number, by: planVersion.by })
    .from(planVersion)
    .where(tests ? inArray(planVersion.testId, tests) : undefined)
  const released = await writtenDown(db, 'release plan')
  for (const v of versions) {
    found.signatures++
    const entry = released.find(
      w => w.entityId === v.testId && (w.after as { number?: number } | null)?.number === v.number,
    )
    if (!entry) say('signature', v.testId, `Release ${v.number} of the plan is in no entry of the audit trail.`)
    else if (entry.who !== v.by)
      say(
        'signature',
        v.testId,
        `Release ${v.number} of the plan is signed “${v.by}”; the audit trail has “${entry.who}”.`,
      )
  }
}

/** The newest kept result of each test. */
export async function newestResults(db: Db, slug: string | null) {
  const tests = await testsOf(db, slug)
  const rows = await db
    .select({
      id: reduction.id,
      testId: reduction.testId,
      settings: reduction.settings,
      sensors: reduction.sensors,
      methodVersion: reduction.methodVersion,
      outputSha256: reduction.outputSha256,
    })
    .from(reduction)
    .where(tests ? inArray(reduction.testId, tests) : undefined)
    .orderBy(desc(reduction.id))
  return rows.filter((r, i) => rows.findIndex(x => x.testId === r.testId) === i)
}

import { and, desc, eq, inArray } from 'drizzle-orm'
import {
  glanceText,
  HypometError,
  isHypometError,
  likenessOfName,
  parseSettings,
  planSchemaOf,
  rolesOfPlan,
  rowsOf,
  sniffTable,
  type NumbersSeen,
  type NumberStyle,
  unitFor,
  withoutBrackets,
  type ChannelMap,
  type Dialect,
  type Glance,
  type Kind,
  type Role,
  type Sniffed,
  type SniffedColumn,
} from '@hypomet/core'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { recordsTogether } from './clocks'
import { checkImportChannels, type FileReading, type ImportChannel } from '../../ingest/reading'
import { article, campaign, channel, dataset, revision, run, runEvent, test, type Broke } from '../schema'
import { openItemsOf } from '../tests/readiness'
import { lockPredictions } from '../tests/tests'

interface PlannedChannel {
  role: string
  label: string
  kind: Kind | 'text'
  sensorId: number | null
  /** A record may be without it. */
  optional?: boolean
  aliases?: readonly string[]
  /** Where it sits along the article, m. */
  x?: number
}

/**
 * Channels a file is mapped to, time first: those of the plan, then what else its kind of test reads. Data that exists
 * needs no plan.
 */
export async function plannedChannels(
  db: Db,
  testId: number,
  { further: isWhole = true } = {},
): Promise<PlannedChannel[]> {
  const [t] = await db.select().from(test).where(eq(test.id, testId))
  if (!t) throw notFound('test', testId)
  const { channels } = (t.plan ? parseSettings(planSchemaOf(t.family), t.plan, 'plan') : { channels: [] }) as {
    channels: (PlannedChannel & { expression?: string })[]
  }
  const roles = rolesOfPlan(t.family, t.plan)
  const named = (c: PlannedChannel): PlannedChannel => {
    const aliases = roles[c.role]?.aliases
    return aliases ? { ...c, aliases } : c
  }
  const read = channels.filter(c => c.expression === undefined)
  // What the plan works out from others no file has to bring.
  const derived = channels.filter(c => c.expression !== undefined).map(c => c.role)
  const further =
    !isWhole && t.plan
      ? []
      : Object.entries(roles).flatMap(([role, r]): PlannedChannel[] =>
          role === '*' || role === 't' || r.kind === 'any' || derived.includes(role) || read.some(c => c.role === role)
            ? []
            : [{ role, label: r.label, kind: r.kind, sensorId: null, ...(r.optional ? { optional: true } : {}) }],
        )
  return [
    { role: 't', label: 'Time', kind: 'time', sensorId: null, ...(needsClock(roles) ? {} : { optional: true }) },
    ...read.map(named),
    ...further.map(named),
  ]
}

const needsClock = (roles: Record<string, Role>): boolean => roles['t'] !== undefined && !roles['t'].optional

/** Roles that a channel of a test's record can be given. */
export const rolesToGive = async (db: Db, testId: number): Promise<{ role: string; label: string }[]> =>
  (await plannedChannels(db, testId))
    .filter(p => p.role !== 't' && p.kind !== 'text')
    .map(({ role, label }) => ({ role, label }))

/** Where planned channels sit, m, by role. */
export async function plannedPlaces(db: Db, testId: number): Promise<Map<string, number | undefined>> {
  const [t] = await db.select({ plan: test.plan }).from(test).where(eq(test.id, testId))
  return new Map(t?.plan ? (await plannedChannels(db, testId)).map(c => [c.role, c.x]) : [])
}

/** What a text file's head says, with a first guess of which column is which channel. */
export function previewFile(
  bytes: Uint8Array,
  planned: PlannedChannel[],
  remembered: Record<string, string[]> = {},
  said: Dialect = {},
  /** How the campaign's numbers are written, where the file does not tell. */
  usual?: NumberStyle,
) {
  const first = sniffTable(bytes, said)
  const sniffed = first.numbers.open && usual ? sniffTable(bytes, { ...said, numbers: usual }) : first
  const { delimiter, numbers, openDates, headerRow, unitsRow, preamble, columns } = sniffed
  const header =
    headerRow === 0
      ? 'no header, columns are numbered'
      : `header in row ${headerRow}, ${unitsRow ? `units in row ${unitsRow}` : 'no units row'}`
  const before =
    preamble.length === 0 ? [] : [`${preamble.length} ${preamble.length === 1 ? 'line' : 'lines'} of preamble`]
  const written = numbers.styles ? 'decimal signs column by column' : NUMBERS_READ[numbers.style ?? 'open']
  const about = [`${DELIMITER_NAMES[delimiter]}-separated, ${written}`, header, ...before].join(' · ')
  // What may be two numbers is not drawn as either.
  const { rows, curves } = numbers.open
    ? { rows: 0, curves: {} }
    : glanceText(bytes, columns, { delimiter, headerRow, ...(numbers.style ? { numbers: numbers.style } : {}) })
  const seen = { about, columns, delimiter, headerRow, numbers, openDates, rowsSeen: rows, curves }
  return previewOf(seen, planned, remembered)
}

const NUMBERS_READ: Record<NumberStyle | 'open', string> = {
  point: 'decimal point',
  comma: 'decimal comma',
  open: 'whole numbers',
}

const DELIMITER_NAMES: Record<string, string> = {
  '\t': 'tab',
  ';': 'semicolon',
  ',': 'comma',
  '|': 'bar',
  ' ': 'blank',
}

/** What was seen of a file, and what of it can be corrected. */
export interface SeenFile {
  about: string
  columns: SniffedColumn[]
  /** Of text. */
  delimiter?: Sniffed['delimiter']
  headerRow?: number
  /** Of text: how numbers are written, and one that may be two where nothing tells. */
  numbers?: NumbersSeen | undefined
  /** Of text: dates that may be two days, by column. */
  openDates?: Record<string, string>
  /** Of a workbook. */
  sheet?: string | undefined
  sheets?: string[] | undefined
  /** Rows that the curves are of, and curves of the first columns by name. */
  rowsSeen: number
  curves: Record<string, Glance>
}

/** Columns with a first guess of which is which channel. */
export function previewOf(
  { columns, ...file }: SeenFile,
  planned: PlannedChannel[],
  remembered: Record<string, string[]>,
) {
  const free = columns.filter(c => c.isNumeric)
  const words = columns.filter(c => !c.isNumeric && !c.isStamps)
  const guess: ChannelMap = {}
  for (const p of planned) {
    if (p.kind !== 'text') continue
    const named = words.find(c => remembered[p.role]?.includes(c.name) || likenessOfName(p, c.name) > 0) ?? words[0]
    if (named) guess[p.role] = { column: named.name }
  }
  const sure: Record<string, Sureness> = {}
  const open: Record<string, string[]> = {}
  const numeric = planned.filter(p => p.kind !== 'text')
  const candidates = numeric.length * free.length > MOST_PAIRS ? namedLike(free, remembered) : () => free
  // The likeliest pairs first, so that a column that says its name is not taken for another of its unit.
  const pairs = numeric
    .flatMap(p => candidates(p).map(c => ({ p, c, score: likeness(p, c, remembered[p.role]) })))
    .filter(x => x.score > 0)
    .sort((x, y) => y.score - x.score)
  const unused = new Set(free)
  const ofRole = new Map<string, typeof pairs>()
  for (const x of pairs) ofRole.set(x.p.role, [...(ofRole.get(x.p.role) ?? []), x])
  for (const { p, c, score } of pairs) {
    if (guess[p.role] || open[p.role] || !unused.has(c)) continue
    // What several columns could be is asked, never taken.
    const alike = ofRole.get(p.role)!.filter(x => x.score === score && unused.has(x.c))
    if (alike.length > 1) {
      open[p.role] = alike.map(x => x.c.name)
      continue
    }
    guess[p.role] = { column: c.name, ...(c.unit ? { unit: c.unit } : {}) }
    sure[p.role] = surenessOf(score, c)
    unused.delete(c)
  }
  // What a reduction cannot do without comes before what it may read beside: the one column of its kind is its own.
  for (const p of numeric.filter(p => !p.optional && !guess[p.role] && !open[p.role])) {
    const fits = (ofRole.get(p.role) ?? []).map(x => x.c)
    const [taken, ...others] = numeric.filter(o => o.optional && fits.some(c => c.name === guess[o.role]?.column))
    if (fits.length !== 1 || !taken || others.length > 0) continue
    guess[p.role] = guess[taken.role]!
    sure[p.role] = 'unit'
    Reflect.deleteProperty(guess, taken.role)
    Reflect.deleteProperty(sure, taken.role)
  }
  return { ...file, columns, planned, guess, sure, open, tall: rowsOf(columns) }
}

/** More pairs of a channel and a column are not weighed one by one. */
const MOST_PAIRS = 200_000

/**
 * Of thousands of columns those that may be a channel's: what bears its name, and for what the kind of test itself
 * reads all of them.
 */
function namedLike(columns: readonly SniffedColumn[], remembered: Record<string, string[]>) {
  const byName = new Map<string, SniffedColumn[]>()
  const bare = (name: string) => withoutBrackets(name).toLowerCase()
  const add = (key: string, c: SniffedColumn) => {
    const own = byName.get(key)
    if (own) own.push(c)
    else byName.set(key, [c])
  }
  for (const c of columns) {
    add(bare(c.name), c)
    if (bare(c.name) !== c.name) add(c.name, c)
  }
  return (p: PlannedChannel): readonly SniffedColumn[] =>
    p.role === 't' || p.aliases
      ? columns
      : [
          ...new Set(
            [p.role.toLowerCase(), p.label.toLowerCase(), ...(remembered[p.role] ?? [])].flatMap(
              n => byName.get(n) ?? [],
            ),
          ),
        ]
}

/** Why a column is taken for a channel. */
export type Sureness = 'remembered' | 'stamps' | 'name' | 'unit'

const surenessOf = (score: number, { isStamps }: SniffedColumn): Sureness =>
  isStamps ? 'stamps' : score >= REMEMBERED ? 'remembered' : score > 1 ? 'name' : 'unit'

const REMEMBERED = 9

/** How well a column suits a channel: its unit must be of the kind, its name may speak for it. */
function likeness(p: PlannedChannel, { name, unit, isStamps }: SniffedColumn, remembered: string[] = []): number {
  const { role, kind } = p
  if (isStamps) return role === 't' ? 8 : 0
  if (remembered.includes(name)) return REMEMBERED
  const named = likenessOfName(p, name)
  if (unit === null || kind === 'text') return named
  try {
    unitFor(unit, kind)
    return named + 1
  } catch {
    return 0
  }
}

/**
 * Columns that earlier imports of this kind of test mapped to each role: a crew's own names are known the second time.
 */
export async function rememberedColumns(db: Db, testId: number): Promise<Record<string, string[]>> {
  const [t] = await db.select({ family: test.family }).from(test).where(eq(test.id, testId))
  const maps = await db
    .select({ map: dataset.channelMap })
    .from(dataset)
    .innerJoin(test, eq(dataset.testId, test.id))
    .where(and(eq(test.family, t?.family ?? ''), eq(dataset.status, 'ready')))
    .orderBy(desc(dataset.id))
    .limit(50)
  const columns: Record<string, string[]> = {}
  for (const { map } of maps)
    for (const [role, { column }] of Object.entries(map ?? {})) (columns[role] ??= []).push(column)
  return columns
}

/** How numbers of a test's campaign are written, where that has been said. */
export async function numbersOfTest(db: Db, testId: number): Promise<NumberStyle | undefined> {
  const [c] = await db
    .select({ numbers: campaign.numbers })
    .from(test)
    .innerJoin(revision, eq(test.revisionId, revision.id))
    .innerJoin(article, eq(revision.articleId, article.id))
    .innerJoin(campaign, eq(article.campaignId, campaign.id))
    .where(eq(test.id, testId))
  return c?.numbers === 'point' || c?.numbers === 'comma' ? c.numbers : undefined
}

/** Where these very bytes have been imported before. */
export async function sameBytes(db: Db, sha256: string) {
  return db
    .select({ testId: dataset.testId, title: test.title, at: dataset.createdAt })
    .from(dataset)
    .innerJoin(test, eq(dataset.testId, test.id))
    .where(and(eq(dataset.sha256, sha256), eq(dataset.status, 'ready')))
}

export interface NewImport {
  sha256: string
  fileName: string
  channels: Record<string, ImportChannel>
  reading?: FileReading
  /** The test's main record, where this one only adds channels to it, and what its clock is set by, s. */
  joins?: number | null
  clockOffset?: number
  end: 'ladder done' | 'article broke' | 'fixture gave way' | 'aborted'
  broke?: Broke | null
}

/** A dataset that nobody sees until its import is complete. */
export function beginImport(database: Database, by: string, testId: number, input: NewImport) {
  return database.write(async db => {
    if (input.joins) await assertJoins(db, testId, input.joins, Object.keys(input.channels))
    else await assertTest(db, testId)
    checkImportChannels(input.channels)
    await assertUnits(db, testId, input.channels)
    const [made] = await db
      .insert(dataset)
      .values({
        testId,
        source: 'file',
        name: input.fileName,
        status: 'importing',
        sha256: input.sha256,
        channelMap: input.channels,
        reading: input.reading ?? {},
        joinsId: input.joins ?? null,
        warnings: [],
        createdAt: new Date().toISOString(),
      })
      .returning()
    await audit(db, {
      who: by,
      what: 'import begins',
      entity: 'dataset',
      entityId: made!.id,
      after: {
        fileName: input.fileName,
        sha256: input.sha256,
        channels: input.channels,
        reading: input.reading ?? {},
        joins: input.joins ?? null,
      },
    })
    return made!
  })
}

/** A planned channel takes the units of what it measures. */
async function assertUnits(db: Db, testId: number, channels: Record<string, ImportChannel>): Promise<void> {
  const kinds = new Map((await plannedChannels(db, testId)).map(p => [p.role, p.kind]))
  for (const [role, { unit }] of Object.entries(channels)) {
    const kind = kinds.get(role)
    if (kind === undefined || kind === 'text' || unit === undefined) continue
    try {
      unitFor(unit, kind)
    } catch (e) {
      throw isHypometError(e) ? e.at({ path: `channels.${role}.unit` }) : e
    }
  }
}

/** @throws HypometError `not-found` */
export async function assertTest(db: Db, testId: number): Promise<void> {
  const [found] = await db.select({ id: test.id }).from(test).where(eq(test.id, testId))
  if (!found) throw notFound('test', testId)
}

/** A file may join a main record of the same test, with channels that it lacks. */
async function assertJoins(db: Db, testId: number, joins: number, roles: string[]): Promise<void> {
  const together = await recordsTogether(db, joins)
  if (together[0]!.testId !== testId || together[0]!.id !== joins) throw notFound('record', joins)
  const taken = await db
    .select({ role: channel.role })
    .from(channel)
    .where(
      and(
        inArray(
          channel.datasetId,
          together.map(d => d.id),
        ),
        eq(channel.used, true),
      ),
    )
  const twice = roles.find(r => r !== 't' && taken.some(c => c.role === r))
  if (twice)
    throw new HypometError(
      'role-taken',
      `The record has the channel “${twice}” already; a file that joins it brings others.`,
      { path: `channels.${twice}` },
    )
}

/**
 * The imported file counts as the test's run, and locks its predictions; one that joins another is part of that one's.
 */
export function finishImport(
  database: Database,
  by: string,
  testId: number,
  datasetId: number,
  ended: Pick<NewImport, 'end' | 'broke'>,
) {
  return database.write(async db => {
    const [d] = await db.select({ joins: dataset.joinsId }).from(dataset).where(eq(dataset.id, datasetId))
    const [before] = await db.select({ id: run.id }).from(run).where(eq(run.datasetId, datasetId))
    if (before) return { runId: before.id, datasetId }
    if (d?.joins) {
      await audit(db, {
        who: by,
        what: 'import done',
        entity: 'dataset',
        entityId: datasetId,
        after: { joins: d.joins },
      })
      return { runId: null, datasetId }
    }
    const open = await openItemsOf(db, testId)
    await lockPredictions(db, testId)
    const at = new Date().toISOString()
    const [made] = await db
      .insert(run)
      .values({
        testId,
        datasetId,
        source: 'file',
        status: 'closed',
        end: ended.end,
        broke: ended.broke ?? null,
        by,
        startedAt: at,
        endedAt: at,
      })
      .returning()
    // Data that is there needs no checklist; that it had none is written down.
    const [{ plan }] = (await db.select({ plan: test.plan }).from(test).where(eq(test.id, testId))) as [
      { plan: unknown },
    ]
    const items = `${open.length} ${open.length === 1 ? 'item' : 'items'} of the checklist open`
    if (!plan || open.length > 0)
      await db.insert(runEvent).values({
        runId: made!.id,
        t: 0,
        kind: 'readiness not recorded',
        note: `recorded elsewhere; ${plan ? items : 'not planned here'}`,
        by,
        at,
      })
    await audit(db, {
      who: by,
      what: 'import done',
      entity: 'dataset',
      entityId: datasetId,
      after: { runId: made!.id, open: open.length },
    })
    return { runId: made!.id, datasetId }
  })
}

/** Datasets whose import was under way when an earlier process ended. */
export async function unfinishedImports(db: Db): Promise<number[]> {
  return (await db.select({ id: dataset.id }).from(dataset).where(eq(dataset.status, 'importing'))).map(d => d.id)
}

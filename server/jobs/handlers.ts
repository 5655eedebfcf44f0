import { alignClocks, channelHealth, completeRows, deriveChannel, families, findParting, formatNumber, formatQuantity, HypometError, IMPERIAL, kindOfSi, meanSd, METRIC, nameAlone, parseSettings, resample, resolveChannels, toOutput, welch, type Figure, type HealthFlag, type HealthOptions, type MethodOutput, type RowLayout, type Role, type SensorSpecification, type Table } from '@hypomet/core'
import { asc, eq, inArray } from 'drizzle-orm'
import * as z from 'zod'
import type { Connection, Db } from '../db/client'
import { storeHealth } from '../db/bulk'
import type { Originals } from '../db/originals'
import { recordsTogether, setClock } from '../db/clocks'
import { checkImportChannels, fileReading, importChannels } from '../ingest/reading'
import { record } from '../db/audit'
import { addChannel, clockOf, deleteSamples, readDataset, samplesOf, spanOf, stripOf, writeSamples, type StoredTable } from '../db/samples'
import { channelsOf, symbolsTogether, systemOf } from '../db/records'
import { channel, channelPair, dataset } from '../db/schema'
import { formatOf } from '@hypomet/core/formats/columns'
import { open } from 'node:fs/promises'
import { columnsOf, importColumns } from '../ingest/importColumns'
import { importText } from '../ingest/importText'
import type { ParsePool } from '../ingest/parseBlock'
import type { LookOver, MeanOfSteps } from './healthThreads'
import { stepsPayload, tableSteps } from './steps'

export interface JobContext {
  db: Connection
  originals: Originals
  progress(share: number, doing: string): void
  /** Threads that parse. */
  parsers(layout: RowLayout, timeSlot: number): ParsePool
  lookOver: LookOver
  meansOfSteps: MeanOfSteps
  /** @throws HypometError `cancelled` once somebody has stopped the job */
  check(): void
}

const family = z.string().refine(id => id in families, 'There is no such test family.')

export const importPayload = z.object({
  datasetId: z.number().int(), sha256: z.string(), fileName: z.string(), family,
  channels: importChannels,
  reading: fileReading.default({}),
  sensorOf: z.record(z.string(), z.number().int().nullable()),
  /** What follows when it is done: for whom, and how the test ended. */
  testId: z.number().int(), by: z.string(), end: z.string(),
  /** The main record that it joins, and what its clock is set by, s. */
  joins: z.number().int().nullable().default(null), clockOffset: z.number().default(0),
})
export type ImportPayload = z.input<typeof importPayload>

export const reducePayload = z.object({
  datasetId: z.number().int(), family,
  /** Null asks for a proposal from the plan. */
  settings: z.record(z.string(), z.unknown()).nullable(),
  plan: z.unknown(), outcome: z.string(),
  sensors: z.record(z.string(), z.custom<SensorSpecification>(s => typeof (s as SensorSpecification | null)?.fullScale === 'number')),
})
export type ReducePayload = z.output<typeof reducePayload>

export interface Reduced {
  settings: Record<string, unknown>
  output: MethodOutput
  figures: Record<string, Figure>
}

/**
 * Reads a kept original into a dataset. Nothing of it is visible until it is complete. A refusal takes everything with
 * it; a process that dies leaves what a later call goes on from.
 */
export async function importFile({ db, originals, progress, parsers, check }: JobContext, p: ImportPayload): Promise<{ rows: number }> {
  try {
    const { roles } = families[p.family]!
    // What one file lacks another may bring.
    const mappings = resolveChannels(Object.fromEntries(Object.entries(roles).map(([role, r]) => [role, { ...r, optional: true }])), p.channels)
    checkImportChannels(p.channels)
    progress(0.01, 'reading the file')
    const path = originals.path(p.sha256)
    const format = formatOf(await firstBytes(path))
    const input = { datasetId: p.datasetId, path, mappings, channels: p.channels, reading: p.reading ?? {}, sensorOf: p.sensorOf }
    if (format) await db.transaction(tx => deleteSamples(tx, p.datasetId))
    const { rows, warnings } = format ? await importColumns({ db, progress, check }, input, format) : await importText({ db, parsers, progress, check }, input)
    const beyond = await beyondCalibration(db, p.datasetId)
    await db.transaction(async tx => {
      if (p.clockOffset) await setClock(tx, p.datasetId, p.clockOffset)
      await tx.update(dataset).set({ status: 'ready', rows, warnings: [...warnings, ...beyond], importState: null }).where(eq(dataset.id, p.datasetId))
    })
    return { rows }
  } catch (e) {
    await db.transaction(tx => discard(tx, p.datasetId))
    throw e instanceof HypometError ? e.at({ file: p.fileName }) : e
  }
}

/** Enough to tell what kind of file it is. */
async function firstBytes(path: string): Promise<Uint8Array> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(new Uint8Array(512), 0, 512, 0)
    return buffer.subarray(0, bytesRead)
  } finally {
    await file.close()
  }
}

/** Channels that read what their calibration table does not cover. */
async function beyondCalibration(db: Db, datasetId: number): Promise<{ code: string; message: string }[]> {
  const rows = await db.select({ name: channel.name, conversion: channel.conversion, min: channel.min, max: channel.max }).from(channel).where(eq(channel.datasetId, datasetId))
  return rows.flatMap(({ name, conversion, min, max }) => {
    const table = conversion?.table
    if (!table || min === null || max === null || (min >= table[0]![0] && max <= table.at(-1)![0])) return []
    return [{ code: 'beyond-calibration', message: `“${name}” reads ${min} to ${max}; its calibration covers ${table[0]![0]} to ${table.at(-1)![0]}. Beyond it the end pieces are carried on.` }]
  })
}

export const previewPayload = z.object({ sha256: z.string(), sheet: z.string().optional() })

/** The columns of a kept file that is not text; null where it is. */
export async function previewColumns({ originals }: JobContext, { sha256, sheet: wanted }: z.output<typeof previewPayload>) {
  const path = originals.path(sha256)
  const format = formatOf(await firstBytes(path))
  if (!format) return null
  const { columns, about, sheet, sheets } = await columnsOf(path, format, wanted)
  return { about, ...(sheets ? { sheet, sheets } : {}), columns: columns.map(c => ({ name: c.name, unit: c.unit, samples: Array.from(c.values.subarray(0, 4), v => (Number.isNaN(v) ? '' : String(Number(v.toPrecision(6))))), isNumeric: c.values.some(v => !Number.isNaN(v)), isStamps: false })) }
}

/** Takes a half import away; to be called in a transaction. */
export async function discard(db: Db, datasetId: number): Promise<void> {
  await deleteSamples(db, datasetId)
  await db.delete(dataset).where(eq(dataset.id, datasetId))
}

export const healthPayload = z.object({
  datasetId: z.number().int(),
  /** SI, by channel. */
  fullScale: z.record(z.string(), z.number()),
  options: z.object({ gapShare: z.number().optional(), flatSamples: z.number().int().min(2).optional(), hampelSigma: z.number().positive().optional() }),
})
export type HealthPayload = z.output<typeof healthPayload>

/** Looks over every channel of a dataset and notes what is wrong. */
export async function checkHealth(context: JobContext, p: HealthPayload): Promise<{ channels: number; flagged: number }> {
  const { db, progress, check, lookOver } = context
  const channels = await db.select({ id: channel.id, role: channel.role, conversion: channel.conversion }).from(channel).where(eq(channel.datasetId, p.datasetId)).orderBy(asc(channel.id))
  const [data] = await db.select({ rows: dataset.rows }).from(dataset).where(eq(dataset.id, p.datasetId))
  const time = channels.find(c => c.role === 't')!
  const asked = channels.filter(c => c !== time).map(({ id, conversion, role }) => ({ id, conversion, options: { ...p.options, ...(p.fullScale[role] === undefined ? {} : { fullScale: p.fullScale[role]! }) } as HealthOptions }))
  let [done, flagged] = [0, 0]
  for await (const found of lookOver(time, asked, data?.rows ?? 0)) {
    check()
    await storeHealth(db.$client, found)
    done += found.length
    flagged += found.filter(f => f.health.length > 0).length
    progress(done / asked.length, `${done} of ${asked.length} channels`)
  }
  await lookAtPairs(context, { datasetId: p.datasetId })
  return { channels: asked.length, flagged }
}

export const selectionPayload = z.object({ datasetId: z.number().int(), channels: z.array(z.number().int()).max(64), from: z.number(), to: z.number(), spectrum: z.boolean() })
export type SelectionPayload = z.output<typeof selectionPayload>

export interface Selected {
  channel: number
  n: number
  mean: number | null
  sd: number | null
  min: number | null
  max: number | null
  /** One-sided density where it was asked for and the record allows it; else why not. */
  spectrum: { frequency: number[]; density: number[] } | { refused: string } | null
}

/** Statistics, and spectra where asked, of a stretch of time. */
export async function lookAtSelection({ db }: JobContext, p: SelectionPayload): Promise<Selected[]> {
  const clocks = new Map<number, { first: number; end: number; stamps: Float64Array }>()
  const clockFor = async (datasetId: number) => {
    const known = clocks.get(datasetId)
    if (known) return known
    const time = await clockOf(db, datasetId)
    const span = await spanOf(db, time, p)
    const made = { ...span, stamps: await samplesOf(db, time, span.first, span.end) }
    clocks.set(datasetId, made)
    return made
  }
  const found: Selected[] = []
  for (const c of await channelsOf(db, p.datasetId, p.channels)) {
    const { first, end, stamps } = await clockFor(c.datasetId)
    const inside = (i: number) => stamps[i]! >= p.from && stamps[i]! <= p.to
    const y = (await samplesOf(db, c, first, end)).filter((_, i) => inside(i))
    const numbers = y.filter(v => !Number.isNaN(v))
    const { mean, sd, n } = meanSd(numbers)
    const finite = (v: number) => (Number.isFinite(v) ? v : null)
    const [min, max] = numbers.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity])
    found.push({ channel: c.id, n, mean: finite(mean), sd: finite(sd), min: finite(min!), max: finite(max!), spectrum: p.spectrum ? densityOf(stamps.filter((_, i) => inside(i)), y) : null })
  }
  return found
}

const SEGMENTS_WANTED = 8

function densityOf(t: Float64Array, y: Float64Array): Selected['spectrum'] {
  if (y.some(Number.isNaN)) return { refused: 'There are gaps in this stretch.' }
  const interval = (t.at(-1)! - t[0]!) / (t.length - 1)
  const longest = t.reduce((m, v, i) => (i > 0 ? Math.max(m, v - t[i - 1]!) : m), 0)
  if (!(longest < 1.2 * interval)) return { refused: 'The samples of this stretch are not evenly spaced.' }
  const nperseg = Math.min(8192, 2 ** Math.floor(Math.log2((2 * y.length) / SEGMENTS_WANTED)))
  if (!(nperseg >= 16)) return { refused: 'This stretch is too short for a spectrum.' }
  const { frequency, density } = welch(y, 1 / interval, nperseg)
  return { frequency: Array.from(frequency.subarray(1)), density: Array.from(density.subarray(1)) }
}

export const derivePayload = z.object({ datasetId: z.number().int(), expression: z.string().trim().min(1), width: z.number().int().min(10).max(4000), from: z.number(), to: z.number(), keep: z.object({ name: z.string().trim().min(1).max(80), by: z.string() }).nullable() })
export type DerivePayload = z.output<typeof derivePayload>

/** A channel derived from others: drawn, and with `keep` stored beside them with the expression it came by. */
export async function derive({ db }: JobContext, p: DerivePayload) {
  const together = await recordsTogether(db, p.datasetId)
  const main = together[0]!.id
  const rows = await db.select().from(channel).where(inArray(channel.datasetId, together.map(d => d.id))).orderBy(asc(channel.id))
  const symbols = symbolsTogether(rows)
  const t = await samplesOf(db, await clockOf(db, main))
  const named = new Map([...symbols].map(([id, symbol]) => [symbol, rows.find(r => r.id === id)!]))
  const { values, unit } = await deriveChannel(p.expression, t, Object.fromEntries([...named].map(([symbol, r]) => [symbol, r.unit])), symbol => onMainClock(db, named.get(symbol)!, main, t))
  for (let i = 0; i < values.length; i++) if (!Number.isFinite(values[i]!)) values[i] = NaN
  if (values.every(Number.isNaN)) throw new HypometError('data-range', 'This has no value anywhere in the record.', { path: 'expression' })
  const { keep } = p
  const id = keep && (await db.transaction(async tx => {
    if (rows.some(r => r.role === keep.name)) throw new HypometError('name-taken', `There is a channel “${keep.name}” already.`, { path: 'name' })
    const made = await addChannel(tx, { datasetId: main, role: keep.name, name: keep.name, used: false, unit, expression: p.expression })
    await writeSamples(tx, made, values)
    await tx.update(channel).set({ health: channelHealth(t, values) }).where(eq(channel.id, made))
    await record(tx, { who: keep.by, what: 'derive', entity: 'channel', entityId: made, after: { name: keep.name, expression: p.expression } })
    return made
  }))
  return { id, unit, ...stripOf(t, values, p.width, p) }
}

/** Samples of a slower logger that may lie between two that are there. */
const LONGEST_GAP = 5

/** The channels that reductions read, of the main record and of those that join it, on the main one's clock. */
async function readTogether(db: Db, datasetId: number): Promise<StoredTable> {
  const [main, ...others] = await recordsTogether(db, datasetId)
  const table = await readDataset(db, main!.id)
  const t = table.columns['t']!
  for (const other of others) {
    const { columns, units } = await readDataset(db, other.id)
    const own = columns['t']!
    const longest = (LONGEST_GAP * (own.at(-1)! - own[0]!)) / Math.max(1, own.length - 1)
    for (const [role, y] of Object.entries(columns))
      if (!(role in table.columns)) {
        table.columns[role] = resample(own, y, t, 'linear', longest)
        table.units[role] = units[role]!
      }
  }
  return table
}

/** Samples of a channel on the main record's clock. */
async function onMainClock(db: Db, c: typeof channel.$inferSelect, main: number, t: Float64Array): Promise<Float64Array> {
  const y = await samplesOf(db, c)
  return c.datasetId === main ? y : resample(await samplesOf(db, await clockOf(db, c.datasetId)), y, t, 'linear')
}

export const pairsPayload = z.object({ datasetId: z.number().int() })

/** Flags the channels of pairs that part, and takes the flags of those that no longer do. */
export async function lookAtPairs({ db }: JobContext, { datasetId }: z.output<typeof pairsPayload>): Promise<{ parted: number }> {
  const together = await recordsTogether(db, datasetId)
  const main = together[0]!.id
  const rows = await db.select().from(channel).where(inArray(channel.datasetId, together.map(d => d.id)))
  const pairs = await db.select().from(channelPair).where(eq(channelPair.datasetId, main))
  const flags = new Map<number, HealthFlag[]>()
  const prefer = (await systemOf(db, together[0]!.testId)) === 'imperial' ? IMPERIAL : METRIC
  let parted = 0
  const guide = rows.find(c => c.used && c.role === 'load' && c.datasetId === main)
  for (const pair of pairs) {
    const [a, b] = [pair.a, pair.b].map(id => rows.find(c => c.id === id)!) as [typeof channel.$inferSelect, typeof channel.$inferSelect]
    const t = await samplesOf(db, await clockOf(db, a.datasetId))
    const y = await samplesOf(db, b)
    const other = a.datasetId === b.datasetId ? y : resample(await samplesOf(db, await clockOf(db, b.datasetId)), y, t, 'linear')
    const found = findParting(t, await samplesOf(db, a), other, { a: pair.tolerance, b: 0 }, guide && guide.datasetId === a.datasetId ? { guide: await samplesOf(db, guide) } : {})
    if (!found) continue
    parted++
    const at = found.guide === null ? '' : ` at a load of ${formatQuantity(found.guide, 'force', { digits: 3, prefer })}`
    const kind = a.conversion && a.unit === '1' && a.conversion.multiply / a.conversion.divide === 1e-6 ? 'strain' : kindOfSi(a.unit)
    const written = (v: number, digits: number) => (kind ? formatQuantity(v, kind, { digits, prefer }) : `${formatNumber(v, digits)} ${a.unit}`.trim())
    for (const [mine, twin] of [[a, b], [b, a]] as const)
      flags.set(mine.id, [...(flags.get(mine.id) ?? []), { code: 'parted', message: `Parts from its twin “${nameAlone(twin.name || twin.role)}” by ${written(Math.abs(found.difference), 2)} where ${written(pair.tolerance, 2)} is allowed${at}.`, index: found.index, at: found.time, twin: twin.id }])
  }
  await db.transaction(async tx => {
    for (const c of rows) {
      const others = (c.health ?? []).filter(f => f.code !== 'parted')
      const mine = flags.get(c.id) ?? []
      if (mine.length > 0 || others.length !== (c.health ?? []).length) await tx.update(channel).set({ health: [...others, ...mine] }).where(eq(channel.id, c.id))
    }
  })
  return { parted }
}

export const alignPayload = z.object({ datasetId: z.number().int(), a: z.number().int(), b: z.number().int(), most: z.number().positive().max(86_400) })

/** How a record's clock must be set so that one of its channels agrees with one of the main record, and what both look like then. */
export async function align({ db }: JobContext, p: z.output<typeof alignPayload>) {
  const [a, b] = (await channelsOf(db, p.datasetId, [p.a, p.b])) as [typeof channel.$inferSelect, typeof channel.$inferSelect]
  const [d] = await db.select({ offset: dataset.clockOffset }).from(dataset).where(eq(dataset.id, b.datasetId))
  const read = async (c: typeof channel.$inferSelect) => ({ t: await samplesOf(db, await clockOf(db, c.datasetId)), y: await samplesOf(db, c) })
  const [one, other] = [await read(a), await read(b)]
  const { offset, ...found } = alignClocks(one, other, p.most)
  const moved = other.t.map(v => v + offset)
  const range = { from: Math.max(one.t[0]!, moved[0]!), to: Math.min(one.t.at(-1)!, moved.at(-1)!) }
  return { ...found, offset: (d?.offset ?? 0) + offset, moved: offset, ...range, first: stripOf(one.t, one.y, 800, range), second: stripOf(moved, other.y, 800, range) }
}

/** One reduction of a stored dataset; stores nothing. */
export async function reduceDataset({ db }: JobContext, p: ReducePayload): Promise<Reduced> {
  const family = families[p.family]!
  const table = asTable(family.roles, await readTogether(db, p.datasetId))
  const guide = Object.keys(family.roles).find(r => r !== 't')!
  const entered = p.settings ?? (family.stages.proposeSettings(parseSettings(family.stages.plan, p.plan, 'plan'), table.t, table.channels[guide]!, p.outcome) as Record<string, unknown>)
  const settings = parseSettings(family.settings, entered)
  const reduction = family.reduce(table, settings, { sensors: p.sensors })
  return { settings: entered, output: toOutput({ family: family.id }, family.version, reduction), figures: family.stages.figures(reduction, settings) }
}

/** The rows that can be reduced: as when reading a file, gaps in named roles leave the row out. */
function asTable(roles: Record<string, Role>, { columns, units }: StoredTable): Table {
  for (const [role, { optional, label }] of Object.entries(roles)) if (role !== '*' && !optional && !columns[role]) throw new HypometError('missing-channel', `No record of this test holds the channel “${role}” (${label.toLowerCase()}); import the file that has it.`, { path: `channels.${role}` })
  const named = Object.keys(columns).filter(r => r in roles).map(r => columns[r]!)
  const t = columns['t']!
  const { pick } = completeRows(named, t.length)
  return { t: pick(t), channels: Object.fromEntries(Object.entries(columns).filter(([r]) => r !== 't').map(([r, c]) => [r, pick(c)])), units }
}

export const handlers = { import: importFile, reduce: reduceDataset, health: checkHealth, selection: lookAtSelection, preview: previewColumns, derive, pairs: lookAtPairs, align, steps: tableSteps }

/** A message to the worker thread: which handler, and a payload that fits it. */
export const jobMessage = z.discriminatedUnion('kind', [
  z.object({ call: z.number(), kind: z.literal('import'), payload: importPayload }),
  z.object({ call: z.number(), kind: z.literal('reduce'), payload: reducePayload }),
  z.object({ call: z.number(), kind: z.literal('health'), payload: healthPayload }),
  z.object({ call: z.number(), kind: z.literal('selection'), payload: selectionPayload }),
  z.object({ call: z.number(), kind: z.literal('preview'), payload: previewPayload }),
  z.object({ call: z.number(), kind: z.literal('derive'), payload: derivePayload }),
  z.object({ call: z.number(), kind: z.literal('pairs'), payload: pairsPayload }),
  z.object({ call: z.number(), kind: z.literal('align'), payload: alignPayload }),
  z.object({ call: z.number(), kind: z.literal('steps'), payload: stepsPayload }),
])
export type JobKind = keyof typeof handlers
export type PayloadOf<K extends JobKind> = Parameters<(typeof handlers)[K]>[1]
export type ResultOf<K extends JobKind> = Awaited<ReturnType<(typeof handlers)[K]>>

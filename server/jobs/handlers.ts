import { completeRows, families, HypometError, parseSettings, resolveChannels, toOutput, type ChannelMap, type Figure, type HealthOptions, type MethodOutput, type RowLayout, type SensorSpecification, type Table } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import * as z from 'zod'
import type { Db } from '../db/client'
import type { Originals } from '../db/originals'
import { deleteSamples, readDataset } from '../db/samples'
import { channel, dataset } from '../db/schema'
import { importText } from '../ingest/importText'
import type { ParsePool } from '../ingest/parseBlock'
import type { LookOver } from './healthThreads'

export interface JobContext {
  db: Db
  originals: Originals
  progress(share: number, doing: string): void
  /** Threads that parse. */
  parsers(layout: RowLayout, timeSlot: number): ParsePool
  lookOver: LookOver
  /** @throws HypometError `cancelled` once somebody has stopped the job */
  check(): void
}

const family = z.string().refine(id => id in families, 'There is no such test family.')

export const importPayload = z.object({
  datasetId: z.number().int(), sha256: z.string(), fileName: z.string(), family,
  channels: z.custom<ChannelMap>(c => typeof c === 'object' && c !== null),
  sensorOf: z.record(z.string(), z.number().int().nullable()),
  /** What follows when it is done: for whom, and how the test ended. */
  testId: z.number().int(), by: z.string(), end: z.string(),
})
export type ImportPayload = z.output<typeof importPayload>

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
    const mappings = resolveChannels(roles, p.channels)
    progress(0.01, 'reading the file')
    const { rows, warnings } = await importText({ db, parsers, progress, check }, { datasetId: p.datasetId, path: originals.path(p.sha256), mappings, sensorOf: p.sensorOf })
    await db.update(dataset).set({ status: 'ready', rows, warnings, importState: null }).where(eq(dataset.id, p.datasetId))
    return { rows }
  } catch (e) {
    await db.transaction(tx => discard(tx, p.datasetId))
    throw e instanceof HypometError ? e.at({ file: p.fileName }) : e
  }
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
export async function checkHealth({ db, progress, check, lookOver }: JobContext, p: HealthPayload): Promise<{ channels: number; flagged: number }> {
  const channels = await db.select({ id: channel.id, role: channel.role }).from(channel).where(eq(channel.datasetId, p.datasetId)).orderBy(asc(channel.id))
  const time = channels.find(c => c.role === 't')!
  const asked = channels.filter(c => c !== time).map(c => ({ id: c.id, options: { ...p.options, ...(p.fullScale[c.role] === undefined ? {} : { fullScale: p.fullScale[c.role]! }) } as HealthOptions }))
  let [done, flagged] = [0, 0]
  for await (const found of lookOver(time.id, asked)) {
    check()
    await db.transaction(async tx => {
      for (const { id, health } of found) await tx.update(channel).set({ health }).where(eq(channel.id, id))
    })
    done += found.length
    flagged += found.filter(f => f.health.length > 0).length
    progress(done / asked.length, `${done} of ${asked.length} channels`)
  }
  return { channels: asked.length, flagged }
}

/** One reduction of a stored dataset; stores nothing. */
export async function reduceDataset({ db }: JobContext, p: ReducePayload): Promise<Reduced> {
  const family = families[p.family]!
  const { columns, units } = await readDataset(db, p.datasetId)
  const table = asTable(family.roles, columns, units)
  const guide = Object.keys(family.roles).find(r => r !== 't')!
  const entered = p.settings ?? (family.stages.proposeSettings(parseSettings(family.stages.plan, p.plan, 'plan'), table.t, table.channels[guide]!, p.outcome) as Record<string, unknown>)
  const settings = parseSettings(family.settings, entered)
  const reduction = family.reduce(table, settings, { sensors: p.sensors })
  return { settings: entered, output: toOutput({ family: family.id }, family.version, reduction), figures: family.stages.figures(reduction, settings) }
}

/** The rows that can be reduced: as when reading a file, gaps in named roles leave the row out. */
function asTable(roles: Record<string, unknown>, columns: Record<string, Float64Array>, units: Record<string, string>): Table {
  const named = Object.keys(columns).filter(r => r in roles).map(r => columns[r]!)
  const t = columns['t']!
  const { pick } = completeRows(named, t.length)
  return { t: pick(t), channels: Object.fromEntries(Object.entries(columns).filter(([r]) => r !== 't').map(([r, c]) => [r, pick(c)])), units }
}

export const handlers = { import: importFile, reduce: reduceDataset, health: checkHealth }

/** A message to the worker thread: which handler, and a payload that fits it. */
export const jobMessage = z.discriminatedUnion('kind', [
  z.object({ call: z.number(), kind: z.literal('import'), payload: importPayload }),
  z.object({ call: z.number(), kind: z.literal('reduce'), payload: reducePayload }),
  z.object({ call: z.number(), kind: z.literal('health'), payload: healthPayload }),
])
export type JobKind = keyof typeof handlers
export type PayloadOf<K extends JobKind> = Parameters<(typeof handlers)[K]>[1]
export type ResultOf<K extends JobKind> = Awaited<ReturnType<(typeof handlers)[K]>>

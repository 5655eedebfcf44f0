import { alignTable, completeRows, families, HypometError, readTable, resolveChannels, siUnitOf, toOutput, type ChannelMap, type Figure, type MethodOutput, type SensorSpecification, type Table, parseSettings } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import * as z from 'zod'
import type { Db } from '../db/client'
import type { Originals } from '../db/originals'
import { addChannel, deleteSamples, readDataset, writeSamples } from '../db/samples'
import { dataset } from '../db/schema'

export interface JobContext {
  db: Db
  originals: Originals
  progress(share: number, doing: string): void
}

const family = z.string().refine(id => id in families, 'There is no such test family.')

export const importPayload = z.object({
  datasetId: z.number().int(), sha256: z.string(), fileName: z.string(), family,
  channels: z.custom<ChannelMap>(c => typeof c === 'object' && c !== null),
  sensorOf: z.record(z.string(), z.number().int().nullable()),
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
 * Reads a kept original into a dataset. Nothing of it is visible until the last transaction; whatever fails takes
 * everything with it.
 */
export async function importFile({ db, originals, progress }: JobContext, p: ImportPayload): Promise<{ rows: number }> {
  try {
    progress(0.05, 'reading the file')
    const bytes = await originals.read(p.sha256)
    const { roles } = families[p.family]!
    const mappings = resolveChannels(roles, p.channels)
    const raw = readTable(bytes, mappings)
    progress(0.4, 'checking time and gaps')
    const table = alignTable(roles, mappings, raw)
    if (table.t.length < 3) throw new HypometError('data-range', 'Fewer than three rows hold a number in every needed channel.')
    let done = 0
    for (const m of mappings) {
      progress(0.5 + (0.45 * done++) / mappings.length, `storing ${m.role}`)
      await db.transaction(async tx => {
        const id = await addChannel(tx, p.datasetId, m.role, siUnitOf(m.unit!.dimension), p.sensorOf[m.role] ?? null)
        await writeSamples(tx, id, raw.numbers[m.role]!)
      })
    }
    await db.update(dataset).set({ status: 'ready', rows: raw.rows.length, warnings: raw.warnings }).where(eq(dataset.id, p.datasetId))
    return { rows: raw.rows.length }
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

export const handlers = { import: importFile, reduce: reduceDataset }

/** A message to the worker thread: which handler, and a payload that fits it. */
export const jobMessage = z.discriminatedUnion('kind', [
  z.object({ call: z.number(), kind: z.literal('import'), payload: importPayload }),
  z.object({ call: z.number(), kind: z.literal('reduce'), payload: reducePayload }),
])
export type JobKind = keyof typeof handlers
export type PayloadOf<K extends JobKind> = Parameters<(typeof handlers)[K]>[1]
export type ResultOf<K extends JobKind> = Awaited<ReturnType<(typeof handlers)[K]>>

import type { JobContext } from './context'
import {
  families,
  glanceOf,
  HypometError,
  MOST_GLANCES,
  namesAsked,
  proposeFor,
  reduceRecord,
  resolveChannels,
  type DeclaredOwn,
  type Fact,
  type HealthOptions,
  type PlanView,
  type ReducedRecord,
  type Role,
  type SensorSpecification,
} from '@hypomet/core'
import * as z from 'zod'
import type { Db } from '../db/connection/client'
import { storeHealth } from '../db/records/bulk'
import { setClock } from '../db/records/clocks'
import { brokeSeen, checkImportChannels, fileReading, importChannels } from '../ingest/reading'
import { storedRecord } from '../db/records/onMainClock'
import { discard, markImported, rowsOf } from '../db/records/importing'
import { channelsOfRecords } from '../db/records/channels'
import { deleteSamples } from '../db/records/samples'
import { formatOf } from '@hypomet/core/formats/columns'
import { open } from 'node:fs/promises'
import { columnsOf, importColumns } from '../ingest/importColumns'
import { copyTo } from '../db/connection/condition'
import { importRows } from '../ingest/importRows'
import { importTall } from '../ingest/importTall'
import { importText } from '../ingest/importText'
import { mendRows } from '../ingest/mendRows'
import { derive, derivePayload, derivePlanned, plannedPayload, rederive, rederivePayload } from './derive'
import { lookAtSelection, selectionPayload } from './selection'
import { stepsPayload, tableSteps } from './steps'
import { verify, verifyPayload } from '../db/proofs/verify'
import { align, alignPayload, lookAtPairs, pairsPayload } from './together'

const family = z.string().refine(id => Object.hasOwn(families, id), 'There is no such test family.')

export const importPayload = z.object({
  datasetId: z.number().int(),
  sha256: z.string(),
  fileName: z.string(),
  family,
  channels: importChannels,
  reading: fileReading.default({}),
  sensorOf: z.record(z.string(), z.number().int().nullable()),
  /** What follows when it is done: for whom, and how the test ended. */
  testId: z.number().int(),
  by: z.string(),
  end: z.string(),
  broke: brokeSeen.nullable().default(null),
  /** What its plan says that a record holds. */
  roles: z
    .record(
      z.string(),
      z.custom<Role>(r => typeof (r as Role | null)?.label === 'string'),
    )
    .optional(),
  /** The main record that it joins, and what its clock is set by, s. */
  joins: z.number().int().nullable().default(null),
  clockOffset: z.number().default(0),
  /** The record into whose place it is read again. */
  replaces: z.number().int().nullable().default(null),
})
export type ImportPayload = z.input<typeof importPayload>

export const reducePayload = z.object({
  datasetId: z.number().int(),
  family,
  /** Null asks for a proposal from the plan. */
  settings: z.record(z.string(), z.unknown()).nullable(),
  plan: z.unknown(),
  view: z.custom<PlanView | null>(v => typeof v === 'object').default(null),
  outcome: z.string(),
  calls: z.array(z.object({ t: z.number(), load: z.number().nullable(), reading: z.number().nullable() })).optional(),
  peak: z.number().nullable().default(null),
  /** What rows go by that say no configuration. */
  name: z.string().default(''),
  /** What is written down of the revision: proposals read it. */
  facts: z.custom<readonly Fact[]>(Array.isArray).default([]),
  /** Results that the article has of its own: proposals ask for them. */
  own: z.custom<DeclaredOwn[]>(Array.isArray).default([]),
  sensors: z.record(
    z.string(),
    z.custom<SensorSpecification>(s => typeof (s as SensorSpecification | null)?.fullScale === 'number'),
  ),
})
export type ReducePayload = z.output<typeof reducePayload>

export type Reduced = ReducedRecord

/**
 * Reads a kept original into a dataset. Nothing of it is visible until it is complete. A refusal takes everything with
 * it; a process that dies leaves what a later call goes on from.
 */
export async function importFile(
  { db, originals, progress, parsers, check, stillWanted }: JobContext,
  p: ImportPayload,
): Promise<{ rows: number }> {
  try {
    // What one file lacks another may bring; what is read beside the roles is kept with them.
    const roles = p.roles ?? families[p.family]!.roles
    const optional = Object.fromEntries(Object.entries(roles).map(([role, r]) => [role, { ...r, optional: true }]))
    const mappings = resolveChannels(
      { '*': { label: 'Any other channel', kind: 'any', optional: true }, ...optional },
      p.channels,
    )
    checkImportChannels(p.channels)
    progress(0.01, 'reading the file')
    const path = originals.path(p.sha256)
    const format = formatOf(await firstBytes(path))
    const input = {
      datasetId: p.datasetId,
      path,
      mappings,
      channels: p.channels,
      reading: p.reading ?? {},
      sensorOf: p.sensorOf,
    }
    if (format) await db.transaction(tx => deleteSamples(tx, p.datasetId))
    const { tall } = p.reading ?? {}
    const isRows =
      p.reading?.typed === true ||
      mappings.some(m => m.unit === null) ||
      ((!roles['t'] || roles['t'].optional === true) &&
        !mappings.some(m => m.role === 't') &&
        p.reading?.rate === undefined)
    const read = tall
      ? await importTall(db, { ...input, mappings }, tall, format)
      : isRows
        ? await importRows(db, { ...input, mappings }, format)
        : format
          ? await importColumns({ db, progress, check }, input, format)
          : await importText({ db, parsers, progress, check }, input)
    const mended = mappings.some(m => m.role === 't')
      ? await mendRows(db, p.datasetId, input.reading)
      : { rows: null, warnings: [] }
    const rows = mended.rows ?? read.rows
    const beyond = await beyondCalibration(db, p.datasetId)
    await db.transaction(async tx => {
      if (p.clockOffset) await setClock(tx, p.datasetId, p.clockOffset)
      await markImported(tx, p.datasetId, { rows, warnings: [...read.warnings, ...mended.warnings, ...beyond] })
    })
    return { rows }
  } catch (e) {
    await stillWanted?.()
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
  const rows = await channelsOfRecords(db, [datasetId])
  return rows.flatMap(({ name, conversion, min, max }) => {
    const table = conversion?.table
    if (!table || min === null || max === null || (min >= table[0]![0] && max <= table.at(-1)![0])) return []
    return [
      {
        code: 'beyond-calibration',
        message:
          `“${name}” reads ${min} to ${max}; its calibration covers ${table[0]![0]} to ` +
          `${table.at(-1)![0]}. Beyond it the end pieces are carried on.`,
      },
    ]
  })
}

export const previewPayload = z.object({
  sha256: z.string(),
  ...fileReading.pick({ sheet: true, numbers: true, headerRow: true }).shape,
})

/** The columns of a kept file that is not text; null where it is. */
export async function previewColumns({ originals }: JobContext, { sha256, ...said }: z.output<typeof previewPayload>) {
  const path = originals.path(sha256)
  const format = formatOf(await firstBytes(path))
  if (!format) return null
  const { columns, about, numbers, sheet, sheets, headerRow, left, isCut } = await columnsOf(path, format, said, {
    isLook: true,
  })
  const first = `looked at: its first ${(columns[0]?.values.length ?? 0).toLocaleString('en')} rows`
  return {
    about: [about, ...(isCut ? [first] : []), ...(left ?? []).map(l => `left out: ${l}`)].join(' · '),
    rowsSeen: columns[0]?.values.length ?? 0,
    curves: Object.fromEntries(columns.slice(0, MOST_GLANCES).map(c => [c.name, glanceOf(c.values)])),
    ...(sheets ? { sheet, sheets, numbers, headerRow } : {}),
    columns: columns.map(c => ({
      name: c.name,
      unit: c.unit,
      samples: Array.from(c.values.subarray(0, 4), v => (Number.isNaN(v) ? '' : String(Number(v.toPrecision(6))))),
      isNumeric: c.values.some(v => !Number.isNaN(v)),
      isStamps: c.from !== undefined,
    })),
  }
}

export const healthPayload = z.object({
  datasetId: z.number().int(),
  /** SI, by channel. */
  fullScale: z.record(z.string(), z.number()),
  options: z.object({
    gapShare: z.number().optional(),
    flatSamples: z.number().int().min(2).optional(),
    hampelSigma: z.number().positive().optional(),
  }),
})
export type HealthPayload = z.output<typeof healthPayload>

/** Looks over every channel of a dataset and notes what is wrong. */
export async function checkHealth(
  context: JobContext,
  p: HealthPayload,
): Promise<{ channels: number; flagged: number }> {
  const { db, progress, check, lookOver } = context
  const channels = await channelsOfRecords(db, [p.datasetId])
  const time = channels.find(c => c.role === 't')!
  const asked = channels
    .filter(c => c !== time)
    .map(({ id, conversion, role }) => ({
      id,
      conversion,
      options: {
        ...p.options,
        ...(p.fullScale[role] === undefined ? {} : { fullScale: p.fullScale[role]! }),
      } as HealthOptions,
    }))
  let [done, flagged] = [0, 0]
  for await (const found of lookOver(time, asked, await rowsOf(db, p.datasetId))) {
    check()
    await storeHealth(db.$client, found)
    done += found.length
    flagged += found.filter(f => f.health.length > 0).length
    progress(done / asked.length, `${done} of ${asked.length} channels`)
  }
  await lookAtPairs(context, { datasetId: p.datasetId })
  return { channels: asked.length, flagged }
}

/** One reduction of a stored dataset; stores nothing. */
export async function reduceDataset({ db }: JobContext, p: ReducePayload): Promise<Reduced> {
  const record = await storedRecord(db, p.datasetId, p.name, namesAsked(p.settings ?? { own: p.own }))
  return reduceRecord(p.family, record, p.settings ?? proposeFor(p.family, record, p), p)
}

/** Settings that a stored record and its plan propose. */
export async function proposeForDataset({ db }: JobContext, p: ReducePayload): Promise<Record<string, unknown>> {
  const record = await storedRecord(db, p.datasetId, p.name, namesAsked({ own: p.own }))
  return proposeFor(p.family, record, { ...p, asked: p.settings })
}

const copyPayload = z.object({ path: z.string() })

export const handlers = {
  import: importFile,
  reduce: reduceDataset,
  propose: proposeForDataset,
  health: checkHealth,
  selection: lookAtSelection,
  preview: previewColumns,
  derive,
  pairs: lookAtPairs,
  align,
  steps: tableSteps,
  rederive,
  planned: derivePlanned,
  copy: ({ db }: JobContext, { path }: z.output<typeof copyPayload>) => copyTo(db.$client, path),
  verify,
}

/** A message to the worker thread: which handler, and a payload that fits it. */
export const jobMessage = z.discriminatedUnion('kind', [
  z.object({ call: z.number(), kind: z.literal('import'), payload: importPayload }),
  z.object({ call: z.number(), kind: z.literal('reduce'), payload: reducePayload }),
  z.object({ call: z.number(), kind: z.literal('propose'), payload: reducePayload }),
  z.object({ call: z.number(), kind: z.literal('health'), payload: healthPayload }),
  z.object({ call: z.number(), kind: z.literal('selection'), payload: selectionPayload }),
  z.object({ call: z.number(), kind: z.literal('preview'), payload: previewPayload }),
  z.object({ call: z.number(), kind: z.literal('derive'), payload: derivePayload }),
  z.object({ call: z.number(), kind: z.literal('pairs'), payload: pairsPayload }),
  z.object({ call: z.number(), kind: z.literal('align'), payload: alignPayload }),
  z.object({ call: z.number(), kind: z.literal('steps'), payload: stepsPayload }),
  z.object({ call: z.number(), kind: z.literal('rederive'), payload: rederivePayload }),
  z.object({ call: z.number(), kind: z.literal('planned'), payload: plannedPayload }),
  z.object({ call: z.number(), kind: z.literal('verify'), payload: verifyPayload }),
  z.object({ call: z.number(), kind: z.literal('copy'), payload: copyPayload }),
])
export type JobKind = keyof typeof handlers
export type PayloadOf<K extends JobKind> = Parameters<(typeof handlers)[K]>[1]
export type ResultOf<K extends JobKind> = Awaited<ReturnType<(typeof handlers)[K]>>

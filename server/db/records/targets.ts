import { HypometError, resample, targetsOf, targetsOfRows, type StoredRecord, type Target } from '@hypomet/core'
import { asc, eq } from 'drizzle-orm'
import type { Db } from '../connection/client'
import { recordsTogether } from './clocks'
import { channelsOfRecords } from './channels'
import { clockOf, samplesOf } from './samples'
import { symbolsTogether } from './symbols'
import { channel } from '../schema'

type Channel = typeof channel.$inferSelect

export interface Gauge {
  role: string
  name: string
  unit: string
}

/** Kinds of gauges that a target at the same place can be held against. */
const GAUGES = new Set(['m', '1', 'rad', 'N', 'Pa', 'N·m'])
const FEWEST = 3

/** Whether a record, or one that joins it, holds image targets. */
export const hasTargets = (channels: readonly { name: string; unit: string }[]): boolean => {
  const of = (list: typeof channels) =>
    targetsOf(
      Object.fromEntries(list.map(c => [c.name, new Float64Array(1)])),
      Object.fromEntries(list.map(c => [c.name, c.unit])),
    ).length
  return of(channels) >= FEWEST || isRows(channels)
}

const isRows = (channels: readonly { name: string; unit: string }[]): boolean =>
  ['x', 'y'].every(axis => channels.some(c => bare(c.name) === axis && c.unit === 'm')) &&
  channels.some(c => bare(c.name) === 'target')
const bare = (name: string) =>
  name
    .replace(/[[(].*$/, '')
    .trim()
    .toLowerCase()

/**
 * Image targets of a record over their own times, with the gauges that were read beside them brought onto those times.
 *
 * @returns  columns “t”, “<target> x”, “<target> y”, “<target> z”, and “gauge:<role>”
 * @throws HypometError `no-targets`
 */
export async function targetRecord(
  db: Db,
  datasetId: number,
): Promise<{ record: StoredRecord; names: string[]; symbols: TargetSymbols; gauges: Gauge[] }> {
  const records = await recordsTogether(db, datasetId)
  const known = symbolsTogether(
    await channelsOfRecords(
      db,
      records.map(r => r.id),
    ),
  )
  for (const r of records) {
    const channels = await db.select().from(channel).where(eq(channel.datasetId, r.id)).orderBy(asc(channel.id))
    const found = await targetsIn(db, r.id, channels)
    if (!found) continue
    const { times, targets } = found
    const columns: Record<string, Float64Array> = { t: times }
    for (const target of targets)
      for (const axis of ['x', 'y', 'z'] as const) columns[`${target.name} ${axis}`] = target[axis]
    const names = targets.map(p => p.name)
    const symbols = symbolsIn(targets, channels, known)
    // What other cameras saw comes onto this one's times.
    for (const other of records.slice(records.indexOf(r) + 1)) {
      const beside = await db.select().from(channel).where(eq(channel.datasetId, other.id)).orderBy(asc(channel.id))
      const more = await targetsIn(db, other.id, beside)
      const further = symbolsIn(more?.targets ?? [], beside, known)
      for (const target of more?.targets ?? []) {
        if (names.includes(target.name)) continue
        names.push(target.name)
        if (further[target.name]) symbols[target.name] = further[target.name]!
        for (const axis of ['x', 'y', 'z'] as const)
          columns[`${target.name} ${axis}`] = resample(more!.times, target[axis], times, 'linear')
      }
    }
    const gauges: Gauge[] = []
    for (const other of records) {
      if (other.id === r.id && found.isRows) continue
      const read = await db.select().from(channel).where(eq(channel.datasetId, other.id)).orderBy(asc(channel.id))
      for (const c of read.filter(
        g => g.used && g.role !== 't' && GAUGES.has(g.unit) && !(`${g.name}` in columns) && !g.labels,
      )) {
        columns[`gauge:${c.role}`] = resample(
          await samplesOf(db, await clockOf(db, other.id)),
          await samplesOf(db, c),
          times,
          'linear',
        )
        gauges.push({ role: c.role, name: c.name, unit: c.unit })
      }
    }
    return { record: { columns, units: {}, labels: {}, hasClock: true, name: r.name }, names, symbols, gauges }
  }
  throw new HypometError(
    'no-targets',
    'This record holds no image targets: their columns are lengths whose names end in x, y and z, or rows of ' +
      'target, x, y, z.',
    { path: 'datasetId' },
  )
}

/** What expressions call a target's columns; a place of a flat picture has two. */
export type TargetSymbols = Record<string, readonly [x: string, y: string, z: string | null]>

function symbolsIn(
  targets: readonly Target[],
  channels: readonly Channel[],
  known: Map<number, string>,
): TargetSymbols {
  const called = (column: string): string => known.get(channels.find(c => c.name === column)!.id)!
  return Object.fromEntries(
    targets.flatMap(({ name, from }) =>
      from ? [[name, [called(from.x), called(from.y), from.z === null ? null : called(from.z)] as const]] : [],
    ),
  )
}

async function targetsIn(
  db: Db,
  datasetId: number,
  channels: readonly Channel[],
): Promise<{ times: Float64Array; targets: Target[]; isRows: boolean } | null> {
  if (isRows(channels)) {
    const of = (axis: string) => channels.find(c => bare(c.name) === axis && c.unit === 'm')
    const [names, time] = [
      channels.find(c => bare(c.name) === 'target' && c.labels),
      channels.find(c => c.unit === 's' && c.role !== 't'),
    ]
    if (!names || !time) return null
    const z = of('z')
    const codes = await samplesOf(db, names)
    const found = targetsOfRows(
      await samplesOf(db, time),
      Array.from(codes, v => names.labels![v] ?? ''),
      [await samplesOf(db, of('x')!), await samplesOf(db, of('y')!), z ? await samplesOf(db, z) : null],
    )
    return { ...found, isRows: true }
  }
  const lengths = channels.filter(c => c.unit === 'm')
  const units = Object.fromEntries(lengths.map(c => [c.name, 'm']))
  if (targetsOf(Object.fromEntries(lengths.map(c => [c.name, new Float64Array(1)])), units).length < FEWEST) return null
  const columns: Record<string, Float64Array> = {}
  for (const c of lengths) columns[c.name] = await samplesOf(db, c)
  return { times: await samplesOf(db, await clockOf(db, datasetId)), targets: targetsOf(columns, units), isRows: false }
}

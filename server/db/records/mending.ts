import { findUnit, HypometError, isHypometError, siUnit, siUnitOf, symbolsOf, unitFor, withNames } from '@hypomet/core'
import { eq } from 'drizzle-orm'
import { audit } from '../connection/audit'
import type { Database, Db } from '../connection/client'
import { notFound } from '../connection/notFound'
import { channel, dataset } from '../schema'
import { channelsOfRecords, type ChannelRow } from './channels'
import { recordsTogether } from './clocks'
import type { ImportChannel } from '../../ingest/reading'
import type { Conversion } from './conversion'
import { plannedChannels } from './datasets'
import { symbolsTogether } from './symbols'

/** What is said anew of a channel after its file was read; what is left out stays. */
export interface Mend {
  /** Empty: it is kept by its own name and not read by reductions. */
  role?: string | undefined
  unit?: string | undefined
  scale?: number | undefined
  offset?: number | undefined
}

const PLAIN: Conversion = { scale: 1, shift: 0, multiply: 1, divide: 1 }

/**
 * Says anew what a channel measures, in which unit, with which sign: its samples stay as they were read, and only how
 * they are taken changes. Whichever channel had the role gives it up.
 *
 * @throws HypometError `not-found`, `setting-range`, `unit-unknown`, `unit-dimension`, `missing-setting`
 */
export function mendChannel(database: Database, by: string, channelId: number, mend: Mend) {
  return database.write(async db => {
    const [found] = await db.select().from(channel).where(eq(channel.id, channelId))
    if (!found) throw notFound('channel', channelId)
    const together = await recordsTogether(db, found.datasetId)
    const rows = await channelsOfRecords(
      db,
      together.map(d => d.id),
    )
    const { testId } = together[0]!
    const planned = new Map((await plannedChannels(db, testId)).map(p => [p.role, p]))
    const role = mend.role === undefined || mend.role === '' ? null : mend.role
    assertMendable(found, mend)
    const kept = mend.role === undefined && found.used ? found.role : role
    const taken = takenAs(found, mend, kept === null ? undefined : planned.get(kept)?.kind)
    const before = rows.find(r => r.used && r.role === role && r.id !== found.id)
    // The sensor that the plan names for a role goes with it, unless somebody named another.
    const sensorId = role === null ? undefined : planned.get(role)?.sensorId
    if (before) await giveUp(db, before, rows, sensorId)
    if (before && role !== null && found.expression !== null) await keepMeaning(db, role, before, rows)
    if (role !== null && role !== found.role) await clearName(db, role, found, rows)
    const named = mend.role === undefined ? { role: found.role, used: found.used } : freeRole(role, found, rows)
    await db
      .update(channel)
      .set({
        ...taken,
        ...named,
        symbol: symbolOf(found, rows),
        sensorId: found.expression === null ? (found.sensorId ?? sensorId ?? null) : null,
      })
      .where(eq(channel.id, found.id))
    for (const d of together) await writeMap(db, d.id)
    const of = together.find(d => d.id === found.datasetId)!
    const units = mend.unit === undefined ? {} : { [found.name]: mend.unit }
    const words = `“${found.name || found.role}”: ${wordsOf(mend, before ? before.name || before.role : null)} (${by}).`
    await db
      .update(dataset)
      .set({
        warnings: [...of.warnings, { code: 'mended', message: words }],
        reading: { ...of.reading, units: { ...of.reading?.units, ...units } },
      })
      .where(eq(dataset.id, of.id))
    await audit(db, {
      who: by,
      what: 'mend',
      entity: 'channel',
      entityId: found.id,
      before: { role: found.role, used: found.used, unit: found.unit, conversion: found.conversion },
      after: { ...mend },
    })
    return { testId, datasetId: found.datasetId }
  })
}

function assertMendable(c: ChannelRow, { role, unit, scale, offset }: Mend): void {
  if (c.role === 't' || role === 't')
    throw new HypometError('setting-range', 'The clock is put right by reading the file again.', { path: 'role' })
  if (c.labels) throw new HypometError('setting-range', 'A column of words has no unit and no sign.', { path: 'unit' })
  const isRead = c.expression === null
  if (!isRead && (unit !== undefined || scale !== undefined || offset !== undefined))
    throw new HypometError('setting-range', 'A derived channel is in what follows from its expression.', {
      path: 'unit',
    })
  if (scale === 0) throw new HypometError('setting-range', 'A scale of nothing leaves nothing.', { path: 'scale' })
}

/** The conversion that was said, in a unit of what it measures. */
function takenAs(
  c: ChannelRow,
  { unit, scale, offset }: Mend,
  kind: Parameters<typeof siUnit>[0] | 'text' | undefined,
) {
  const wanted = kind === undefined || kind === 'text' ? null : kind
  const now = c.conversion ?? PLAIN
  const numbers = {
    ...now,
    ...(scale === undefined ? {} : { scale }),
    ...(offset === undefined ? {} : { offset }),
  }
  if (unit === undefined) {
    const isUnsaid = c.unit === '' || (!c.used && c.conversion?.unit === undefined)
    if (wanted && isUnsaid && c.expression === null)
      throw new HypometError('missing-setting', 'Say the unit that its numbers are in.', { path: 'unit' })
    if (wanted && (c.unit || '1') !== siUnit(wanted))
      throw new HypometError('unit-dimension', `It is in ${c.unit || 'no unit'}, not in ${siUnit(wanted)}.`, {
        path: 'role',
      })
    return { conversion: c.conversion === null && scale === undefined && offset === undefined ? null : numbers }
  }
  const { shift, multiply, divide, dimension } = unitSaid(unit, wanted)
  return { conversion: { ...numbers, shift, multiply, divide, unit }, unit: siUnitOf(dimension) }
}

function unitSaid(unit: string, kind: Parameters<typeof siUnit>[0] | null) {
  try {
    const found = kind ? unitFor(unit, kind) : findUnit(unit || '1', 'gravity')
    if (!found) throw new HypometError('unit-unknown', `“${unit}” is not a unit Hypomet knows.`)
    return found
  } catch (e) {
    throw isHypometError(e) ? e.at({ path: 'unit' }) : e
  }
}

const isTaken = (role: string, own: ChannelRow, rows: readonly ChannelRow[]): boolean =>
  rows.some(r => r.id !== own.id && r.datasetId === own.datasetId && r.role === role)

/** The role that a channel goes by: one of the plan, or its own name. */
function freeRole(role: string | null, own: ChannelRow, rows: readonly ChannelRow[]) {
  if (role !== null) return { role, used: true }
  const name = own.name || own.symbol || own.role
  let free = name
  for (let n = 2; isTaken(free, own, rows); n++) free = `${name} (${n})`
  return { role: free, used: false }
}

async function giveUp(
  db: Db,
  c: ChannelRow,
  rows: readonly ChannelRow[],
  sensorId: number | null | undefined,
): Promise<void> {
  const own = c.sensorId === sensorId ? null : c.sensorId
  await db
    .update(channel)
    .set({ ...freeRole(null, c, rows), symbol: symbolOf(c, rows), sensorId: own })
    .where(eq(channel.id, c.id))
}

/** What expressions call a channel from now on: as before, but for one that went by its role. */
function symbolOf(c: ChannelRow, rows: readonly ChannelRow[]): string {
  if (c.symbol !== null) return c.symbol
  const others = rows.filter(r => r.id !== c.id).flatMap(r => [r.role, r.symbol ?? r.role])
  return symbolsOf([...others, c.name || c.role]).at(-1)!
}

/** Expressions that called a column by its role go on reading that column, where a derived channel takes the role. */
async function keepMeaning(db: Db, role: string, before: ChannelRow, rows: readonly ChannelRow[]): Promise<void> {
  const names = new Map([[role, symbolOf(before, rows)]])
  for (const d of rows)
    if (d.expression !== null)
      await db
        .update(channel)
        .set({ expression: withNames(d.expression, names) })
        .where(eq(channel.id, d.id))
}

/** No other channel goes by a name that is to be a role: one that does is called otherwise, wherever it is read. */
async function clearName(db: Db, role: string, own: ChannelRow, rows: readonly ChannelRow[]): Promise<void> {
  const symbols = symbolsTogether(rows)
  for (const other of rows) {
    if (other.id === own.id || other.used) continue
    if (other.role === role)
      await db
        .update(channel)
        .set({ role: `${role} (column)` })
        .where(eq(channel.id, other.id))
    if (symbols.get(other.id) !== role) continue
    const called = symbolsOf([...symbols.values(), `${role} column`]).at(-1)!
    await db.update(channel).set({ symbol: called }).where(eq(channel.id, other.id))
    for (const d of rows)
      if (d.expression !== null)
        await db
          .update(channel)
          .set({ expression: withNames(d.expression, new Map([[role, called]])) })
          .where(eq(channel.id, d.id))
  }
}

/** What a record's channels are taken as, for whoever looks what a result was worked out from. */
async function writeMap(db: Db, datasetId: number): Promise<void> {
  const [own] = await db.select({ map: dataset.channelMap }).from(dataset).where(eq(dataset.id, datasetId))
  if (!own?.map) return
  const clock = own.map['t']
  const said = Object.values(own.map)
  const read = (await channelsOfRecords(db, [datasetId])).filter(c => c.used && c.role !== 't' && c.expression === null)
  const entries = read.map((c): [string, ImportChannel] => {
    const { scale, offset, table, unit } = c.conversion ?? PLAIN
    const now = unit ?? said.find(m => m.column === c.name)?.unit
    return [
      c.role,
      {
        column: c.name,
        ...(now === undefined ? {} : { unit: now }),
        ...(scale === 1 ? {} : { scale }),
        ...(offset ? { offset } : {}),
        ...(table ? { table: table.map(([a, b]): [number, number] => [a, b]) } : {}),
      },
    ]
  })
  const channelMap = { ...(clock ? { t: clock } : {}), ...Object.fromEntries(entries) }
  await db.update(dataset).set({ channelMap }).where(eq(dataset.id, datasetId))
}

function wordsOf({ role, unit, scale, offset }: Mend, before: string | null): string {
  const words = [
    ...(role === undefined ? [] : [role === '' ? 'no longer read by reductions' : `taken as ${role}`]),
    ...(before === null ? [] : [`in the place of “${before}”`]),
    ...(unit === undefined ? [] : [unit === '' ? 'read as plain numbers' : `read in ${unit}`]),
    ...(scale === undefined ? [] : [scale === -1 ? 'its sign turned' : `times ${scale}`]),
    ...(offset === undefined ? [] : [`${offset < 0 ? '−' : '+'} ${Math.abs(offset)}`]),
  ]
  return words.join(', ')
}

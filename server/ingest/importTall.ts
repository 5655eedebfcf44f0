import {
  epochNote,
  epochOf,
  findUnit,
  HypometError,
  pivotRows,
  readStamp,
  readTable,
  sniffTable,
  tallName,
  type ColumnMapping,
  type Dialect,
} from '@hypomet/core'
import type { BinaryFormat } from '@hypomet/core/formats/columns'
import type { Connection } from '../db/connection/client'
import { addChannel, writeSamples } from '../db/records/samples'
import { channelOf, clockChannel, fileColumns, timeOrder } from './fileColumns'
import { wordsOf } from './importRows'
import type { TextImport } from './importText'
import { assertDates, assertKept, assertNumbers, unitOfColumn } from './reading'

const PLAIN = findUnit('1')!

/**
 * Reads rows of time, target, x, y, z, or of time, channel, value: each target's columns become channels over the times
 * that all share.
 *
 * @param key  the column that says of which target or channel a row is
 * @throws HypometError `missing-column`, `missing-channel` without a column of time, and what `readTable` throws
 */
export async function importTall(
  db: Connection,
  p: TextImport,
  key: string,
  format: BinaryFormat | null,
): Promise<{ rows: number; warnings: { code: string; message: string }[] }> {
  const bytes = await wordsOf(p, format)
  const reading = p.reading ?? {}
  const { delimiter, ...said } = reading
  const dialect: Dialect = { ...said, ...(delimiter && delimiter !== ' ' ? { delimiter } : {}) }
  const sniffed = sniffTable(bytes, dialect)
  assertNumbers(sniffed.numbers)
  const clock = p.mappings.find(m => m.role === 't')
  if (!clock) throw new HypometError('missing-channel', 'Choose the column of time.', { path: 'channels.t' })
  assertDates(dialect.dates ? undefined : sniffed.openDates[clock.column])
  if (!sniffed.columns.some(c => c.name === key))
    throw new HypometError('missing-column', `There is no column “${key}”.`, { path: 'reading.tall', column: key })
  const values = sniffed.columns.filter(c => c.isNumeric && c.name !== key && c.name !== clock.column)
  const isStamps = sniffed.columns.some(c => c.name === clock.column && c.isStamps)
  const mapped = (column: string, unit: ColumnMapping['unit']): ColumnMapping => ({
    role: column,
    column,
    unit,
    scale: 1,
  })
  const raw = readTable(
    bytes,
    [mapped(clock.column, isStamps ? null : PLAIN), mapped(key, null), ...values.map(c => mapped(c.name, PLAIN))],
    dialect,
  )
  raw.lost.forEach(l => assertKept(l, reading))
  const t = isStamps ? stampsOf(raw.text[clock.column]!, dialect) : raw.numbers[clock.column]!
  const { times, keys, columns, lost, back } = pivotRows(
    t,
    raw.text[key]!.map(k => k.trim()),
    values.map(c => raw.numbers[c.name]!),
  )
  // Midnight, or a clock that was set: which of the two rows is right nobody has said.
  if (back !== null) throw timeOrder(false, raw.rows[back]!, clock.column)
  if (times.length === 0)
    throw new HypometError('no-data', `Column “${clock.column}” holds no time.`, { path: 'channels.t' })
  const isOnly = values.length === 1
  const names = keys.flatMap(k => values.map(c => tallName(k, c.name, isOnly)))
  const units = keys.flatMap((_, k) =>
    values.map((c, i) => unitOfColumn(names[k * values.length + i]!, unitOfColumn(c.name, c.unit, reading), reading)),
  )
  const made = fileColumns(
    names,
    units,
    new Map(p.mappings.flatMap(m => (names.includes(m.column) ? [[names.indexOf(m.column), m.role] as const] : []))),
    p.mappings,
    p.channels,
  )
  // Numbers that count from 1970 are counted from the full second of their first.
  const epoch = isStamps || !clock.unit ? 0 : epochOf(times[0]!, clock.unit)
  if (epoch !== 0) times.forEach((v, i) => (times[i] = v - epoch))
  await db.transaction(async tx => {
    const unit = isStamps ? null : clock.unit
    const time = { ...clockChannel(p.datasetId), name: clock.column }
    const conversion = unit && { scale: clock.scale, shift: unit.shift, multiply: unit.multiply, divide: unit.divide }
    await writeSamples(tx, await addChannel(tx, { ...time, ...(conversion ? { conversion } : {}) }), times)
    const flat = columns.flat()
    for (const [i, c] of made.entries())
      await writeSamples(tx, await addChannel(tx, channelOf(c, p.datasetId, p.sensorOf[c.role] ?? null)), flat[i]!)
  })
  const begins = {
    code: 'clock-stamps',
    message: `Time counts from the full second of ${raw.text[clock.column]?.[0]}.`,
  }
  const counted = isStamps ? [begins] : epoch === 0 ? [] : [epochNote(epoch, clock.unit!)]
  return { rows: times.length, warnings: [...raw.warnings, ...counted, ...notes(key, keys.length, lost)] }
}

/** Seconds from the full second of the first stamp, as every clock of stamps. */
function stampsOf(cells: readonly string[], { dates }: Dialect): Float64Array {
  const stamps = cells.map(c => readStamp(c, dates))
  const first = stamps.find(s => s !== null)
  return Float64Array.from(stamps, s => (s && first ? s.whole - first.whole + s.fraction : NaN))
}

function notes(key: string, count: number, { untimed, repeated }: { untimed: number; repeated: number }) {
  const rows = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'row' : 'rows'}`
  return [
    { code: 'tall-rows', message: `Rows of ${count} in “${key}”, brought side by side by their times.` },
    ...(untimed > 0 ? [{ code: 'bad-cell', message: `${rows(untimed)} without a time left out.` }] : []),
    ...(repeated > 0
      ? [{ code: 'repeated-rows', message: `${rows(repeated)} repeated a time of the same “${key}”: left out.` }]
      : []),
  ]
}

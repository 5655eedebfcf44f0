import { epochNote, epochOf, findUnit, HypometError, orderClock, type ClockState } from '@hypomet/core'
import { readColumns } from '@hypomet/core/formats/readColumns'
import type { BinaryFormat } from '@hypomet/core/formats/columns'
import { assertKept, assertNumbers, unitOfColumn, type FileReading } from './reading'
import { readFile, stat } from 'node:fs/promises'
import { addChannel, writeSamples } from '../db/records/samples'
import { assertClock, channelOf, clockChannel, clockNotes, fileColumns, ticks, timeOrder } from './fileColumns'
import type { ImportTools, TextImport } from './importText'

/** Files that are not text are read whole. */
const MOST_BYTES = 1024 ** 3

/** Files that are no larger are looked at whole; of workbooks, which say little of their size, no more than so much. */
const SMALL = 32 * 1024 ** 2
const LOOKED_AT = { workbook: 20_000, large: 2000 }

/** Columns of a file whole, or as much of it as a look wants. */
export async function columnsOf(
  path: string,
  format: BinaryFormat,
  said: FileReading = {},
  { isLook = false }: { isLook?: boolean } = {},
) {
  const { size } = await stat(path)
  if (size > MOST_BYTES)
    throw new HypometError(
      'too-large',
      'Files of this kind are read up to 1 GB; export it as text, which may be of any length.',
    )
  const isBook = format === 'xlsx' || format === 'ods'
  const rows = !isLook ? Infinity : isBook ? LOOKED_AT.workbook : size <= SMALL ? Infinity : LOOKED_AT.large
  return readColumns(await readFile(path), format, said, rows)
}

/** Reads a file that is not text into a dataset, channel by channel; one that is left half done begins again. */
export async function importColumns(
  { db, progress, check }: Pick<ImportTools, 'db' | 'progress' | 'check'>,
  p: TextImport,
  format: BinaryFormat,
): Promise<{ rows: number; warnings: { code: string; message: string }[] }> {
  const reading = p.reading ?? {}
  assertClock(p.mappings, reading.rate)
  const { columns, numbers, left = [] } = await columnsOf(p.path, format, reading)
  assertNumbers(numbers)
  const names = columns.map(c => c.name)
  for (const m of p.mappings)
    if (!names.includes(m.column))
      throw new HypometError('missing-column', `There is no column “${m.column}” (for ${m.role}) in this file.`, {
        path: `channels.${m.role}.column`,
        column: m.column,
      })
  const made = fileColumns(
    names,
    columns.map(c => unitOfColumn(c.name, c.unit, reading)),
    new Map(p.mappings.map(m => [names.indexOf(m.column), m.role])),
    p.mappings,
    p.channels,
  )
  const warnings = left.map(words => ({ code: 'left-out', message: `Left out: ${words}.` }))
  const clock: ClockState = { last: null, added: 0, repairs: [] }
  const rows = columns[0]!.values.length
  if (rows < 3) throw new HypometError('data-range', 'Fewer than three rows hold a number in every needed channel.')
  if (!p.mappings.some(m => m.role === 't'))
    await db.transaction(async tx =>
      writeSamples(tx, await addChannel(tx, clockChannel(p.datasetId)), ticks(0, rows, reading.rate!)),
    )
  for (const [i, c] of made.entries()) {
    check()
    progress(0.1 + (0.9 * i) / made.length, `storing ${c.name}`)
    const { values, lost, from } = columns[i]!
    if (lost && c.mapping) assertKept({ column: c.name, ...lost, of: values.length }, reading)
    const hasNumbers = values.some(v => !Number.isNaN(v))
    if (!hasNumbers && c.mapping)
      throw new HypometError('no-data', `Column “${c.name}” (for ${c.role}) holds no number.`, {
        path: `channels.${c.role}.column`,
        column: c.name,
      })
    if (!hasNumbers) continue
    if (lost && hasNumbers) warnings.push(lostNote(c.name, lost))
    if (c.role === 't') {
      const epoch = from === undefined ? epochOf(values.find(v => !Number.isNaN(v)) ?? NaN, c.unit!) : 0
      if (epoch !== 0) for (let k = 0; k < values.length; k++) values[k]! -= epoch
      if (from !== undefined) warnings.push(epochNote(from, findUnit('s')!))
      else if (epoch !== 0) warnings.push(epochNote(epoch, c.unit!))
      const wrong = orderClock(values, clock, c.unit!.divide / c.unit!.multiply, reading)
      if (wrong !== null) throw timeOrder(values[wrong]! + clock.added === clock.last, wrong + 1, c.name)
    }
    await db.transaction(async tx =>
      writeSamples(tx, await addChannel(tx, channelOf(c, p.datasetId, p.sensorOf[c.role] ?? null)), values),
    )
  }
  return { rows, warnings: [...warnings, ...clockNotes(clock.repairs)] }
}

const lostNote = (column: string, { count, row }: { count: number; row: number }) => ({
  code: 'bad-cell',
  message:
    `Column “${column}”: ${count} ${count === 1 ? 'cell is' : 'cells are'} no number, first in row ${row}; ` +
    'taken as gaps.',
})

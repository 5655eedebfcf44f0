import {
  epochNote,
  epochOf,
  HypometError,
  lineOfRow,
  orderClock,
  readHead,
  readStamp,
  unitSaid,
  type ColumnMapping,
  type RowLayout,
  type TableHead,
} from '@hypomet/core'
import { storeChunks, storeExtents } from '../db/records/bulk'
import type { Connection, Db } from '../db/connection/client'
import { chunksOf, packChunk } from '../db/records/packedChunk'
import { channelIdsOf, dropChannels, dropChunksFrom, importStateOf } from '../db/records/importing'
import { addChannels } from '../db/records/samples'
import {
  assertClock,
  CLOCK,
  channelOf,
  clockChannel,
  clockNotes,
  fileColumns,
  ticks,
  timeOrder,
  type FileColumn,
} from './fileColumns'
import type { ParseAnswer, ParsePool } from './parseBlock'
import { assertDates, assertKept, assertNumbers, unitOfColumn, type FileReading, type ImportChannel } from './reading'
import type { ImportState } from './state'
import { textBlocks, textHead } from './textBlocks'

export interface TextImport {
  datasetId: number
  path: string
  mappings: ColumnMapping[]
  /** The mapping with its calibrations, and what was said of the file. */
  channels?: Record<string, ImportChannel>
  reading?: FileReading
  sensorOf: Record<string, number | null>
}

export interface ImportTools {
  db: Connection
  parsers(layout: RowLayout, timeSlot: number): ParsePool
  progress(share: number, doing: string): void
  /** Throws where the job has been cancelled. */
  check(): void
}

const HEAD = 256 * 1024
const MOST_COLUMNS = 20_000
/**
 * Reads a delimited file into a dataset, block by block: parsed and packed on other threads, stored in order, each
 * block
 * with the place where the next begins. What is stored when the process dies is where a later call goes on.
 */
export async function importText(
  tools: ImportTools,
  p: TextImport,
): Promise<{ rows: number; warnings: { code: string; message: string }[] }> {
  const { db, progress } = tools
  const reading = p.reading ?? {}
  assertClock(p.mappings, reading.rate)
  const isBlank = reading.delimiter === ' '
  const head = readHead(await textHead(p.path, HEAD, isBlank), p.mappings, reading)
  assertNumbers(head.numbers)
  if (head.width > MOST_COLUMNS)
    throw new HypometError('too-large', `The file has ${head.width} columns; up to ${MOST_COLUMNS} are read.`)
  const columns = fileColumns(
    head.names,
    head.names.map((name, i) => unitOfColumn(name, head.inCells[i] ?? unitSaid(name, head.units[i] ?? ''), reading)),
    new Map([...head.columnOf].map(([role, at]) => [at, role])),
    p.mappings,
    p.channels,
  )
  const inFile = columns.findIndex(c => c.role === 't')
  if (inFile < 0) columns.push(CLOCK)
  const timeSlot = inFile < 0 ? columns.length - 1 : inFile
  if (inFile >= 0) assertDates(head.dates?.open)
  const stamp = inFile < 0 ? null : readStamp(head.first[inFile] ?? '', head.dates?.order)
  if (stamp) columns[inFile]!.unit = CLOCK.unit
  const clock = inFile < 0 ? undefined : columns[inFile]!.unit
  const style = head.numbers.styles?.[inFile] ?? head.numbers.style
  const epoch = stamp || !clock ? 0 : epochOf(head.first[inFile] ?? '', clock, style)
  const channelIds = await channelsFor(db, p, columns)
  let state = await resumed(db, p.datasetId, channelIds, columns.length)
  const store: Storing = { datasetId: p.datasetId, channelIds, columns, timeSlot, reading, epoch }
  const pool = tools.parsers(
    {
      delimiter: head.delimiter,
      width: head.width,
      numbers: head.numbers.style,
      styles: head.numbers.styles,
      slots: Int32Array.from({ length: head.width }, (_, i) => i),
      units: head.inCells.some(Boolean) ? head.inCells : undefined,
      ...(stamp ? { stamps: { slot: inFile, base: stamp.whole, dates: head.dates?.order } } : {}),
    },
    inFile,
  )
  /** Blocks that have been stored and may be filled again. */
  const spare: Uint8Array<ArrayBuffer>[] = []
  try {
    for await (const { answer, offset, line, share } of parsedInOrder(pool, p.path, head, state, { spare, isBlank })) {
      tools.check()
      state = await stored(db, store, answer, { ...state, offset, line })
      if (spare.length < pool.width) spare.push(answer.request.bytes)
      progress(0.02 + 0.9 * share, `${state.rows.toLocaleString('en')} rows`)
    }
  } finally {
    await pool.close()
  }
  const stamped =
    epoch !== 0
      ? [epochNote(epoch, clock!)]
      : stamp
        ? [
            {
              code: 'clock-stamps',
              message: `Time counts from the full second of the first stamp, ${head.first[inFile]}.`,
            },
          ]
        : []
  return finished(db, p, columns, channelIds, state, {
    headerRow: head.headerRow,
    warnings: [...head.warnings, ...stamped],
  })
}

async function channelsFor(db: Db, p: TextImport, columns: FileColumn[]): Promise<number[]> {
  const known = await channelIdsOf(db, p.datasetId)
  if (known.length === columns.length) return known
  return db.transaction(async tx => {
    const made = columns.map(c =>
      c === CLOCK ? clockChannel(p.datasetId) : channelOf(c, p.datasetId, p.sensorOf[c.role] ?? null),
    )
    return addChannels(tx, made)
  })
}

/** Where an earlier attempt stopped; chunks of a block that was not complete are taken away. */
async function resumed(db: Db, datasetId: number, channelIds: number[], columns: number): Promise<ImportState> {
  const state = (await importStateOf(db, datasetId)) ?? {
    offset: 0,
    line: 1,
    seq: 0,
    rows: 0,
    numbers: Array.from({ length: columns }, () => 0),
    min: Array.from({ length: columns }, () => null),
    max: Array.from({ length: columns }, () => null),
    bad: [],
    short: null,
    clock: { last: null, added: 0, repairs: [] },
  }
  await dropChunksFrom(db, channelIds, state.seq)
  return state
}

const SMALLEST_BLOCK = 4 << 20
const LARGEST_BLOCK = 16 << 20
const ROWS_WANTED = 16_384

interface ParsedText {
  answer: ParseAnswer
  /** Bytes of text and lines up to the end of the block. */
  offset: number
  line: number
  share: number
}

/** Blocks parsed several at a time, handed on in the file's order. */
async function* parsedInOrder(
  pool: ParsePool,
  path: string,
  head: TableHead,
  state: ImportState,
  o: { spare: Uint8Array<ArrayBuffer>[]; isBlank: boolean },
): AsyncGenerator<ParsedText> {
  const size = Math.min(LARGEST_BLOCK, Math.max(SMALLEST_BLOCK, head.width * 8 * ROWS_WANTED))
  const underway: Promise<ParsedText>[] = []
  let line = state.line
  const isFresh = state.offset === 0
  let passing = isFresh ? (head.firstRow ?? Infinity) : 0
  for await (const block of textBlocks(path, size, { from: state.offset, ...o })) {
    const lines = linesIn(block.bytes, block.length)
    let { bytes, length } = block
    let firstLine = line
    if (passing > line) {
      // Preamble, header and units row are not rows.
      const from = startOfLine(bytes, length, passing - line)
      firstLine = Math.min(passing, line + lines)
      bytes = bytes.slice(from, length)
      length -= from
      passing = firstLine < passing ? passing : 0
    }
    line += lines
    const after = line
    const answered = pool
      .parse({ bytes, length, firstLine })
      .then(answer => ({ answer, offset: block.offset, line: after, share: block.share }))
    answered.catch(() => undefined)
    underway.push(answered)
    if (underway.length >= pool.width) yield await underway.shift()!
  }
  for (const next of underway) yield await next
}

/** Line ends; a carriage return and a line feed are one. */
function linesIn(bytes: Uint8Array, length: number): number {
  let lines = 0
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, length)
  for (let at = text.indexOf(10); at >= 0; at = text.indexOf(10, at + 1)) lines++
  // Files with carriage returns alone are old and short.
  if (lines === 0) for (let at = text.indexOf(13); at >= 0; at = text.indexOf(13, at + 1)) lines++
  return lines
}

function startOfLine(bytes: Uint8Array, length: number, lines: number): number {
  let passed = 0
  for (let i = 0; i < length; i++) {
    if (passed === lines) return i
    if (bytes[i] === 10 || (bytes[i] === 13 && bytes[i + 1] !== 10)) passed++
  }
  return length
}

interface Storing {
  datasetId: number
  channelIds: number[]
  columns: FileColumn[]
  timeSlot: number
  reading: FileReading
  /** In the clock’s own unit: what it counts from. */
  epoch: number
}

async function stored(
  db: Connection,
  { datasetId, channelIds, columns, timeSlot, reading, epoch }: Storing,
  answer: ParseAnswer,
  before: ImportState,
): Promise<ImportState> {
  if (before.short && answer.firstRow !== null)
    throw new HypometError(
      'ragged-row',
      `Row ${before.short.row} breaks off after ${before.short.has} cells, and further rows follow.`,
      { row: before.short.row },
    )
  const clock = { ...before.clock, repairs: [...before.clock.repairs] }
  const { unit, name } = columns[timeSlot]!
  const time = columns[timeSlot] === CLOCK ? ticks(before.rows, answer.rows, reading.rate!) : answer.time
  if (epoch !== 0) for (let i = 0; i < time.length; i++) time[i]! -= epoch
  const wrong = orderClock(time, clock, unit!.divide / unit!.multiply, reading)
  if (wrong !== null) throw timeOrder(time[wrong]! + clock.added === clock.last, rowOf(answer, wrong), name)
  const packed = chunksOf(answer.packed)
  packed.splice(timeSlot, 0, packChunk(time))
  const next: ImportState = {
    offset: before.offset,
    line: before.line,
    seq: before.seq + (answer.rows > 0 ? 1 : 0),
    rows: before.rows + answer.rows,
    clock,
    short: before.short ?? answer.short,
    numbers: before.numbers.map((n, i) => n + (i === timeSlot ? time.length : packed[i]!.count - packed[i]!.gaps)),
    min: packed.map((p, i) => lesser(before.min[i]!, p.min)),
    max: packed.map((p, i) => greater(before.max[i]!, p.max)),
    bad: merged(before.bad, answer.bad),
  }
  const rows =
    answer.rows === 0
      ? []
      : packed.map((p, i) => ({ channelId: channelIds[i]!, seq: before.seq, start: before.rows, ...p }))
  await storeChunks(db.$client, rows, {
    sql: 'UPDATE dataset SET import_state = ?, rows = ? WHERE id = ?',
    args: [JSON.stringify(next), next.rows, datasetId],
  })
  return next
}

const lesser = (a: number | null, b: number | null) => (a === null ? b : b === null ? a : Math.min(a, b))
const greater = (a: number | null, b: number | null) => (a === null ? b : b === null ? a : Math.max(a, b))

const rowOf = ({ request }: ParseAnswer, index: number): number =>
  lineOfRow(request.bytes, request.length, request.firstLine, index)

function merged(a: ImportState['bad'], b: ImportState['bad']): ImportState['bad'] {
  const bySlot = new Map(a.map(x => [x.slot, x]))
  for (const x of b)
    bySlot.set(x.slot, {
      ...x,
      firstRow: bySlot.get(x.slot)?.firstRow ?? x.firstRow,
      count: x.count + (bySlot.get(x.slot)?.count ?? 0),
    })
  return [...bySlot.values()]
}

/** Judges the whole: columns of words are let go, mapped ones must hold numbers. */
async function finished(
  db: Connection,
  p: TextImport,
  columns: FileColumn[],
  channelIds: number[],
  state: ImportState,
  { headerRow, warnings: warned }: Pick<TableHead, 'headerRow' | 'warnings'>,
): Promise<{ rows: number; warnings: { code: string; message: string }[] }> {
  if (state.rows === 0)
    throw new HypometError('empty-file', 'The file holds a header but no data row.', { row: headerRow })
  for (const [i, c] of columns.entries())
    if (c.mapping?.unit && state.numbers[i] === 0)
      throw new HypometError('no-data', `Column “${c.name}” (for ${c.role}) holds no number.`, {
        path: `channels.${c.role}.column`,
        column: c.name,
      })
  for (const { slot, count, firstRow } of state.bad)
    if (columns[slot]!.mapping)
      assertKept({ column: columns[slot]!.name, count, row: firstRow, of: state.rows }, p.reading ?? {})
  if (state.rows < 3)
    throw new HypometError('data-range', 'Fewer than three rows hold a number in every needed channel.')
  await storeExtents(
    db.$client,
    channelIds.map((id, i) => ({ id, min: state.min[i]!, max: state.max[i]!, gaps: state.rows - state.numbers[i]! })),
  )
  await dropChannels(
    db,
    channelIds.filter((_, i) => state.numbers[i] === 0),
  )
  const warnings = [
    ...warned,
    ...state.bad
      .filter(b => state.numbers[b.slot]! > 0)
      .map(b => ({
        code: 'bad-cell',
        message:
          `Column “${columns[b.slot]!.name}”: ${b.count} ${b.count === 1 ? 'cell is' : 'cells are'} no ` +
          `number, first in row ${b.firstRow}; taken as gaps.`,
      })),
    ...(state.short
      ? [{ code: 'truncated-row', message: `The last row (${state.short.row}) breaks off and is left out.` }]
      : []),
    ...clockNotes(state.clock.repairs),
  ]
  return { rows: state.rows, warnings }
}

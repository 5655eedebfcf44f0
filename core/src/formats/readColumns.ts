import { parquetMetadataAsync, parquetReadObjects } from 'hyparquet'
import { compressors } from 'hyparquet-compressors'
import readSheet from 'read-excel-file/universal'
import { HypometError } from '../error'
import type { NumberStyle } from '../quantity/number'
import { cellNumber, numbersSeen, type NumbersSeen } from './cells'
import type { BinaryFormat, ColumnTable } from './columns'
import { readNpy, readNpz } from './npy'
import { unitSaid } from './unitSaid'
import { readVibration } from './vibration'
import { readWav } from './wav'

/**
 * Columns of a file that is not text. @throws HypometError `damaged-file`, `truncated-file`, `no-header`,
 * `not-supported`, `too-large`
 */
export async function readColumns(
  bytes: Uint8Array,
  format: BinaryFormat,
  { sheet, numbers }: { sheet?: string | undefined; numbers?: NumberStyle | undefined } = {},
): Promise<ColumnTable> {
  switch (format) {
    case 'wav':
      return readWav(bytes)
    case 'npy':
      return readNpy(bytes)
    case 'npz':
      return readNpz(bytes)
    case 'vibration':
      return readVibration(bytes)
    case 'parquet':
      return readParquet(bytes)
    case 'xlsx':
      return readWorkbook(bytes, sheet, numbers)
  }
}

const own = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer

async function readParquet(bytes: Uint8Array): Promise<ColumnTable> {
  const file = own(bytes)
  try {
    const { num_rows: rows } = await parquetMetadataAsync(file)
    const objects = await parquetReadObjects({ file, compressors })
    const names = Object.keys(objects[0] ?? {})
    return {
      columns: names.map(name => ({
        name,
        unit: unitSaid(name, ''),
        values: Float64Array.from(objects, o => asNumber(o[name])),
      })),
      about: `Parquet, ${Number(rows)} rows`,
    }
  } catch (e) {
    throw new HypometError('damaged-file', `This Parquet file is not read: ${(e as Error).message}`)
  }
}

/** Dates count in seconds. */
const asNumber = (v: unknown): number =>
  typeof v === 'number'
    ? v
    : typeof v === 'bigint'
      ? Number(v)
      : v instanceof Date
        ? v.getTime() / 1000
        : typeof v === 'boolean'
          ? Number(v)
          : NaN

type Cell = string | number | boolean | Date | null

/**
 * The sheet asked for, or the first that holds a table: a row of names with rows of numbers below it, a row of units
 * between them at most.
 */
async function readWorkbook(bytes: Uint8Array, wanted?: string, said?: NumberStyle): Promise<ColumnTable> {
  let sheets: { sheet: string; data: Cell[][] }[]
  try {
    sheets = (await readSheet(own(bytes) as never)) as never
  } catch (e) {
    throw new HypometError('damaged-file', `This workbook is not read: ${(e as Error).message}`)
  }
  const names = sheets.map(s => s.sheet)
  for (const { sheet, data } of wanted === undefined ? sheets : sheets.filter(s => s.sheet === wanted)) {
    const found = tableIn(data, said)
    if (found)
      return {
        ...found,
        about: `sheet “${sheet}”${sheets.length > 1 ? ` of ${sheets.length}` : ''}`,
        sheet,
        sheets: names,
      }
  }
  if (wanted !== undefined)
    throw new HypometError('no-header', `Sheet “${wanted}” holds no row of names with rows of numbers below it.`)
  throw new HypometError('no-header', 'No sheet holds a row of names with rows of numbers below it.')
}

function tableIn(data: Cell[][], said: NumberStyle | undefined): Pick<ColumnTable, 'columns' | 'numbers'> | null {
  const numbers = (row: Cell[] | undefined) => row?.filter(c => numberIn(c, 'point') !== null).length ?? 0
  const at = data.findIndex(
    (row, i) =>
      row.filter(c => typeof c === 'string' && c.trim() !== '').length >= 2 &&
      numbers(row) === 0 &&
      (numbers(data[i + 1]) > 0 || numbers(data[i + 2]) > 0),
  )
  if (at < 0) return null
  const hasUnits = numbers(data[at + 1]) === 0
  const rows = data.slice(at + (hasUnits ? 2 : 1)).filter(row => row.some(c => c !== null && c !== ''))
  const texts = data[at]!.map((_, c) => rows.flatMap(row => (typeof row[c] === 'string' ? [row[c].trim()] : [])))
  const seen: NumbersSeen = said ? { style: said } : numbersSeen(texts)
  return {
    numbers: seen,
    columns: data[at]!.flatMap((name, c) =>
      name === null || String(name).trim() === ''
        ? []
        : [
            {
              name: String(name).trim(),
              unit: unitSaid(String(name), hasUnits ? String(data[at + 1]![c] ?? '') : ''),
              values: Float64Array.from(rows, row => numberIn(row[c] ?? null, seen.styles?.[c] ?? seen.style) ?? NaN),
            },
          ],
    ),
  }
}

/** @param style  one that may be two is a number, too, where a header is looked for */
function numberIn(cell: Cell, style: NumberStyle | undefined): number | null {
  if (typeof cell === 'number') return cell
  if (cell instanceof Date) return cell.getTime() / 1000
  if (typeof cell !== 'string' || cell.trim() === '') return null
  const value = cellNumber(cell.trim(), style)
  return Number.isNaN(value) ? null : value
}

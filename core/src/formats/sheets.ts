import { HypometError } from '../error'
import type { NumberStyle } from '../quantity/number'
import { cellNumber, isGap, numbersSeen, unitInCells, withoutUnit, type NumbersSeen } from './cells'
import type { ColumnTable } from './columns'
import { unitSaid } from './unitSaid'

export type Cell = string | number | boolean | Date | null

/** What a person says of a workbook. */
export interface SheetSaid {
  sheet?: string | undefined
  numbers?: NumberStyle | undefined
  /** Row of the header, from 1. */
  headerRow?: number | undefined
}

/**
 * The table of the sheet that is asked for, or of the first that holds one: a row of names with rows of numbers below
 * it, a row of units between them at most.
 *
 * @throws HypometError `no-header`
 */
export function tableOfSheets(sheets: readonly { sheet: string; data: Cell[][] }[], said: SheetSaid = {}): ColumnTable {
  const names = sheets.map(s => s.sheet)
  for (const { sheet, data } of said.sheet === undefined ? sheets : sheets.filter(s => s.sheet === said.sheet)) {
    const found = tableIn(data, said)
    if (found)
      return {
        ...found,
        about: `sheet “${sheet}”${sheets.length > 1 ? ` of ${sheets.length}` : ''}, header in row ${found.headerRow}`,
        sheet,
        sheets: names,
      }
  }
  const where = said.sheet === undefined ? 'No sheet holds' : `Sheet “${said.sheet}” holds`
  throw said.headerRow
    ? new HypometError('no-header', `Row ${said.headerRow} is no header: names with rows of numbers below it.`, {
        row: said.headerRow,
      })
    : new HypometError('no-header', `${where} no row of names with rows of numbers below it.`)
}

function tableIn(
  data: Cell[][],
  { numbers: said, headerRow }: SheetSaid,
): Pick<ColumnTable, 'columns' | 'numbers' | 'headerRow'> | null {
  const numbers = (row: Cell[] | undefined) => row?.filter(c => numberIn(c, 'point') !== null).length ?? 0
  const at = data.findIndex(
    (row, i) =>
      (headerRow === undefined || i + 1 === headerRow) &&
      row.filter(c => typeof c === 'string' && c.trim() !== '').length >= 2 &&
      numbers(row) === 0 &&
      (numbers(data[i + 1]) > 0 || numbers(data[i + 2]) > 0),
  )
  if (at < 0) return null
  const hasUnits = numbers(data[at + 1]) === 0
  const first = at + (hasUnits ? 2 : 1)
  const rows = data.flatMap((cells, i) =>
    i >= first && cells.some(c => c !== null && c !== '') ? [{ cells, row: i + 1 }] : [],
  )
  const names = data[at]!.map(name => (name === null ? '' : written(name)))
  const texts = names.map((_, c) => rows.flatMap(r => (typeof r.cells[c] === 'string' ? [r.cells[c].trim()] : [])))
  const said0 = names.map((name, c) => unitSaid(name, hasUnits ? written(data[at + 1]![c] ?? '') : ''))
  const inCells = texts.map((cells, c) => (cells.length === rows.length ? unitInCells(cells, said0[c]) : null))
  const plain = texts.map((cells, c) => cells.map(t => withoutUnit(t, inCells[c])))
  const seen: NumbersSeen = said ? { style: said } : numbersSeen(plain)
  return {
    headerRow: at + 1,
    numbers: seen,
    columns: names.flatMap((name, c) =>
      name === ''
        ? []
        : [
            columnOf(
              name,
              inCells[c] ?? said0[c] ?? null,
              rows.map(({ cells, row }) => ({ row, cell: bare(cells[c] ?? null, inCells[c]) })),
              seen.styles?.[c] ?? seen.style,
            ),
          ],
    ),
  }
}

const bare = (cell: Cell, unit: string | null | undefined): Cell =>
  typeof cell === 'string' ? withoutUnit(cell.trim(), unit) : cell

/** A name over several lines is one line. */
const written = (cell: Cell): string => String(cell).replace(/\s+/g, ' ').trim()

function columnOf(
  name: string,
  unit: string | null,
  rows: readonly { row: number; cell: Cell }[],
  style: NumberStyle | undefined,
): ColumnTable['columns'][number] {
  const dates = rows.filter(r => r.cell instanceof Date)
  if (dates.length > 0 && rows.every(r => r.cell instanceof Date || r.cell === null || r.cell === '')) {
    // Counted from the full second of its first.
    const from = Math.floor((dates[0]!.cell as Date).getTime() / 1000)
    const since = (cell: Cell) => (cell instanceof Date ? (cell.getTime() - 1000 * from) / 1000 : NaN)
    return { name, unit: 's', values: Float64Array.from(rows, r => since(r.cell)), from }
  }
  const isLost = ({ cell }: { cell: Cell }) =>
    cell !== null && numberIn(cell, style) === null && !(typeof cell === 'string' && isGap(cell.trim()))
  const count = rows.filter(isLost).length
  return {
    name,
    unit,
    values: Float64Array.from(rows, r => numberIn(r.cell, style) ?? NaN),
    ...(count > 0 ? { lost: { count, row: rows.find(isLost)!.row } } : {}),
  }
}

/** @param style  one that may be two is a number, too, where a header is looked for */
function numberIn(cell: Cell, style: NumberStyle | undefined): number | null {
  if (typeof cell === 'number') return cell
  if (typeof cell === 'boolean') return Number(cell)
  if (cell instanceof Date) return cell.getTime() / 1000
  if (typeof cell !== 'string' || cell.trim() === '') return null
  const value = cellNumber(cell.trim(), style)
  return Number.isNaN(value) ? null : value
}

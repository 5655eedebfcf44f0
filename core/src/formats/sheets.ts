import { HypometError } from '../error'
import type { NumberStyle } from '../quantity/number'
import { cellNumber, isGap, numbersSeen, unitInCells, withoutUnit, type NumbersSeen } from './cells'
import type { ColumnTable } from './columns'
import { numberedName } from './readTable'
import { readStamp } from './stamps'
import { unitSaid } from './unitSaid'

/** A day, or a time of day, in whole seconds and their fraction, which is kept to the microsecond. */
export class Stamped {
  private constructor(
    readonly whole: number,
    readonly fraction: number,
    /** Whether it says the day. */
    readonly isDay: boolean,
  ) {}

  /** @param days  from 1970, or from midnight */
  static ofDays(days: number, isDay: boolean): Stamped {
    const micros = Math.round(days * 86_400e6)
    const whole = Math.floor(micros / 1e6)
    return new Stamped(whole, (micros - whole * 1e6) / 1e6, isDay)
  }

  /** As ISO 8601 writes it, a wall clock’s as if it were UTC; null where there is no such day. */
  static of(text: string): Stamped | null {
    const stamp = readStamp(text)
    return stamp ? new Stamped(stamp.whole, stamp.fraction, /^\d{4}-/.test(text)) : null
  }

  static ofSeconds(seconds: number): Stamped {
    return Stamped.ofDays(seconds / 86_400, false)
  }

  /** s */
  since(whole: number): number {
    return this.whole - whole + this.fraction
  }
}

export type Cell = string | number | boolean | Stamped | null

/** One sheet: its rows from the first on, each as long as what it holds. */
export interface Sheet {
  sheet: string
  data: readonly (readonly Cell[])[]
  /** Whether more follows than was asked for. */
  isCut?: boolean
}

const MOST_CELLS = 8e6
const MOST_ROWS = 2 ** 24
/** Bytes of a sheet that is looked at, and not read. */
const MOST_LOOKED_AT = 16 * 2 ** 20
const NOTHING: readonly Cell[] = []

/** Rows of a sheet as they come; what stands empty takes no place. @throws HypometError `too-large` */
export class SheetCells {
  readonly data: (readonly Cell[])[] = []
  private cells = 0
  private filled = 0
  private letters = 0

  /** @param mostRows  that hold something */
  constructor(private readonly mostRows = Infinity) {}

  /** Whether nothing more is taken. */
  get isFull(): boolean {
    return this.filled >= this.mostRows || (this.mostRows < Infinity && this.letters > MOST_LOOKED_AT)
  }

  /** Counts what was gone through, full or empty. */
  passed(letters: number): void {
    this.letters += letters
  }

  /** @param at  from 0 */
  put(at: number, row: Cell[]): void {
    while (row.length > 0 && (row.at(-1) === null || row.at(-1) === '')) row.pop()
    if (row.length === 0 || this.isFull) return
    this.cells += row.length
    if (at >= MOST_ROWS || this.cells > MOST_CELLS)
      throw new HypometError(
        'too-large',
        'A sheet with more than eight million cells, or beyond row 16,777,216, is not read: save it as CSV, which ' +
          'may be of any length.',
      )
    while (this.data.length < at) this.data.push(NOTHING)
    this.data[at] = row
    this.filled++
  }
}

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
export function tableOfSheets(sheets: readonly Sheet[], said: SheetSaid = {}): ColumnTable {
  const names = sheets.map(s => s.sheet)
  for (const { sheet, data, isCut } of said.sheet === undefined ? sheets : sheets.filter(s => s.sheet === said.sheet)) {
    const found = tableIn(data, said)
    if (found)
      return {
        ...found,
        about: `sheet “${sheet}”${sheets.length > 1 ? ` of ${sheets.length}` : ''}, header in row ${found.headerRow}`,
        sheet,
        sheets: names,
        ...(isCut ? { isCut } : {}),
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
  data: Sheet['data'],
  { numbers: said, headerRow }: SheetSaid,
): Pick<ColumnTable, 'columns' | 'numbers' | 'headerRow'> | null {
  const numbers = (row: readonly Cell[] | undefined) => row?.filter(c => numberIn(c, 'point') !== null).length ?? 0
  const at = data.findIndex(
    (row, i) =>
      (headerRow === undefined || i + 1 === headerRow) &&
      row.filter(c => typeof c === 'string' && c.trim() !== '').length >= 2 &&
      numbers(row) === 0 &&
      (numbers(data[i + 1]) > 0 || numbers(data[i + 2]) > 0),
  )
  if (at < 0) return null
  const units = numbers(data[at + 1]) === 0 ? data[at + 1] : undefined
  const first = at + (units ? 2 : 1)
  const held = data.flatMap((cells, i) => (i >= first && cells.length > 0 ? [{ cells, row: i + 1 }] : []))
  const names = namesOf(data[at]!, held)
  const rows = held.filter(({ cells }) => names.some(({ c }) => !isEmpty(cells[c])))
  const read = names.map(({ name, c }) => {
    const texts = rows.flatMap(({ cells }) => (typeof cells[c] === 'string' ? [cells[c].trim()] : []))
    const said = unitSaid(name, units ? written(units[c] ?? '') : '')
    const inCells = texts.length === rows.length ? unitInCells(texts, said) : null
    return { name, c, unit: inCells ?? said ?? null, inCells, texts: texts.map(t => withoutUnit(t, inCells)) }
  })
  const seen: NumbersSeen = said ? { style: said } : numbersSeen(read.map(r => r.texts))
  return {
    headerRow: at + 1,
    numbers: seen,
    columns: read.map(({ name, c, unit, inCells }, i) =>
      columnOf(
        name,
        unit,
        rows.map(({ cells, row }) => ({ row, cell: bare(cells[c] ?? null, inCells) })),
        seen.styles?.[i] ?? seen.style,
      ),
    ),
  }
}

/** Columns that bear a name, and those before the last of them, and right behind it, that hold numbers all the same. */
function namesOf(header: readonly Cell[], rows: readonly { cells: readonly Cell[] }[]): { name: string; c: number }[] {
  const width = rows.slice(0, SEEN_ROWS).reduce((n, { cells }) => Math.max(n, cells.length), header.length)
  const holdsNumbers = (c: number) =>
    rows.slice(0, SEEN_ROWS).some(({ cells }) => typeof cells[c] === 'number' || cells[c] instanceof Stamped)
  return Array.from({ length: width }, (_, c) => ({ name: written(header[c] ?? ''), c })).flatMap(({ name, c }) =>
    name !== '' ? [{ name, c }] : holdsNumbers(c) ? [{ name: numberedName(c), c }] : [],
  )
}

const SEEN_ROWS = 100
const isEmpty = (cell: Cell | undefined): boolean => cell === null || cell === undefined || cell === ''

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
  const stamps = rows.filter((r): r is { row: number; cell: Stamped } => r.cell instanceof Stamped)
  if (stamps.length > 0 && rows.every(({ cell }) => cell instanceof Stamped || isEmpty(cell))) {
    // Days count from the full second of the first; times of day from midnight.
    const from = stamps[0]!.cell.whole
    const { isDay } = stamps[0]!.cell
    const values = Float64Array.from(rows, ({ cell }) => (cell instanceof Stamped ? cell.since(isDay ? from : 0) : NaN))
    return { name, unit: 's', values, ...(isDay ? { from } : {}) }
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
  if (cell instanceof Stamped) return cell.since(0)
  if (typeof cell !== 'string' || cell.trim() === '') return null
  const value = cellNumber(cell.trim(), style)
  return Number.isNaN(value) ? null : value
}

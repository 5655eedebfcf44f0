import { HypometError } from '../error'
import { findUnit, sameDimension, toSi, type Unit } from '../quantity/index'
import type { Warning } from '../warning'
import { decodeText } from './decode'
import type { NumberStyle } from '../quantity/number'
import { cellNumber, isGap, numbersSeen, unitBehindNumber, unitInCells, withoutUnit, type NumbersSeen } from './cells'
import { ragged } from './blocks'
import type { Dialect } from './dialect'
import { datesSeen, readStamp, type DatesSeen } from './stamps'
import { unitSaid } from './unitSaid'
import { contentLines, DELIMITERS, splitCells, trimEnd, type Delimiter, type Line } from './lines'

/** One role's column in a file; `unit` is null for text. */
export interface ColumnMapping {
  role: string
  column: string
  unit: Unit | null
  /** Multiplies the reading before the unit is applied; −1 turns the sign. */
  scale: number
}

/** Columns of a file in SI; gaps are NaN. `rows` are the file's own line numbers. */
export interface RawTable {
  rows: number[]
  numbers: Record<string, Float64Array>
  text: Record<string, string[]>
  /** Columns with cells that are no numbers, the first of them, and how many there are. */
  lost: { column: string; count: number; row: number; of: number }[]
  warnings: Warning[]
}

/** Where a file's rows begin, and what its columns are called. */
export interface TableHead {
  delimiter: Delimiter
  /** Cells of the header, without empty ones at its end. */
  width: number
  names: string[]
  /** Column of each mapped role. */
  columnOf: Map<string, number>
  /** File line of the header, and of the first row after it that is no row of units. */
  headerRow: number
  firstRow: number | null
  /** What the file says of its units, by column; empty where it says nothing. */
  units: string[]
  /** Cells of the first row. */
  first: string[]
  /** How its numbers are written, as said or as its columns tell. */
  numbers: NumbersSeen
  /** By column, the unit behind its numbers in the cells. */
  inCells: (string | null)[]
  /** How the dates of the clock are written, where it has slashes. */
  dates: DatesSeen | null
  warnings: Warning[]
}

/**
 * Finds header and units row by the contract's rules: the header is the first line that holds all mapped columns,
 * whatever stands before it is preamble, a row of units is recognised and skipped.
 *
 * @param bytes  a file or its first part
 * @param said  what a person says of the dialect; blanks must have been made tabs
 * @throws HypometError `empty-file`, `missing-column`
 */
export const readHead = (bytes: Uint8Array, mappings: ColumnMapping[], said: Dialect = {}): TableHead =>
  headOf(contentLines(decodeText(bytes)), mappings, said).head

/** Names of columns that have none. */
/** Of a column that bears none, from 0. */
export const numberedName = (i: number): string => `Column ${i + 1}`
export const numberedNames = (width: number): string[] => Array.from({ length: width }, (_, i) => numberedName(i))

/** Cells of a header as names: an unnamed column, as that of an index, goes by its number. */
export const headerNames = (cells: string[]): string[] => trimEnd(cells).map((c, i) => c || numberedName(i))

function headOf(lines: Line[], mappings: ColumnMapping[], said: Dialect = {}): { head: TableHead; body: Line[] } {
  if (lines.length === 0) throw new HypometError('empty-file', 'The file holds no line.')
  if (said.headerRow === 0) return headless(lines, mappings, said)
  const header = findHeader(lines, mappings, said)
  const body = lines.slice(header.index + 1)
  const first = body[0] && splitCells(body[0].text, header.delimiter)
  const hasUnits = first !== undefined && isUnitsRow(first, mappings, header)
  if (hasUnits) body.shift()
  const { delimiter, width, columnOf } = header
  const units = hasUnits ? first.map(bare) : []
  const named = header.names.map((name, i) => unitSaid(name, units[i] ?? ''))
  const seen = seenIn(body, delimiter, width, columnOf.get('t'), said, named)
  return {
    head: {
      delimiter,
      width,
      columnOf,
      units,
      names: header.names,
      headerRow: lines[header.index]!.row,
      firstRow: body[0]?.row ?? null,
      first: body[0] ? splitCells(body[0].text, delimiter) : [],
      ...seen,
      warnings: [
        ...(hasUnits ? unitMismatches(first, mappings, header) : []),
        ...unitMismatches(
          seen.inCells.map(u => u ?? ''),
          mappings,
          header,
        ),
      ],
    },
    body,
  }
}

/**
 * Where rows begin that have no header: three lines with numbers in the same of as many cells; −1 where there are none.
 */
export function rowsBegin(lines: Line[], delimiter: Delimiter): number {
  const rows = lines.slice(0, 200).map(l => trimEnd(splitCells(l.text, delimiter)))
  const shape = (cells: string[] | undefined) =>
    cells?.map(c => (isGap(c) || !Number.isNaN(cellNumber(c, 'point')) ? 'n' : '-')).join('')
  return rows.findIndex((row, i) => shape(row)!.includes('n') && [1, 2].every(k => shape(rows[i + k]) === shape(row)))
}

function headless(lines: Line[], mappings: ColumnMapping[], said: Dialect): { head: TableHead; body: Line[] } {
  const { delimiter = ',' } = said
  const at = delimiter === ' ' ? '\t' : delimiter
  const body = lines.slice(Math.max(0, rowsBegin(lines, at)))
  const first = splitCells(body[0]!.text, at)
  const names = numberedNames(trimEnd(first).length)
  for (const { role, column } of mappings)
    if (!names.includes(column))
      throw new HypometError(
        'missing-column',
        `There is no “${column}” (for ${role}); the file has ${names.length} columns without names.`,
        { path: `channels.${role}.column`, column },
      )
  const columnOf = new Map(mappings.map(m => [m.role, names.indexOf(m.column)]))
  return {
    head: {
      delimiter: at,
      width: names.length,
      columnOf,
      ...seenIn(body, at, names.length, columnOf.get('t'), said),
      units: [],
      names,
      headerRow: 0,
      firstRow: body[0]!.row,
      first,
      warnings: [],
    },
    body,
  }
}

/**
 * How numbers and dates are written: as said, or as all columns tell.
 *
 * @param clock  column of the clock
 * @param units  of columns, as the head of the file says them
 */
export function seenIn(
  body: readonly Line[],
  delimiter: Delimiter,
  width: number,
  clock: number | undefined,
  said: Dialect,
  units: readonly (string | null)[] = [],
): Pick<TableHead, 'numbers' | 'inCells' | 'dates'> {
  const rows = body.map(l => splitCells(l.text, delimiter))
  const columns = Array.from({ length: width }, (_, i) => rows.map(cells => cells[i] ?? ''))
  const inCells = columns.map((cells, i) => unitInCells(cells, units[i]))
  const plain = columns.map((cells, i) => (inCells[i] === null ? cells : cells.map(c => withoutUnit(c, inCells[i]))))
  const dates = clock === undefined ? null : datesSeen(columns[clock] ?? [])
  return {
    numbers: said.numbers ? { style: said.numbers } : numbersSeen(plain),
    inCells,
    dates: dates && said.dates ? { order: said.dates } : dates,
  }
}

/**
 * Reads the mapped columns of a delimited text file by the contract's rules. Numbers that may be two are taken with
 * their sign before decimals, and said in a warning.
 *
 * @throws HypometError `empty-file`, `missing-column`, `ragged-row`, `no-data`, with row and column
 */
export function readTable(bytes: Uint8Array, mappings: ColumnMapping[], said: Dialect = {}): RawTable {
  const { head, body } = headOf(contentLines(decodeText(bytes)), mappings, said)
  const warnings = [...head.warnings]
  const rows = cellsOf(body, head, warnings)
  if (rows.length === 0)
    throw new HypometError('empty-file', 'The file holds a header but no data row.', { row: head.headerRow })
  return fillColumns(rows, mappings, head, warnings)
}

interface Header {
  index: number
  delimiter: Delimiter
  width: number
  names: string[]
  columnOf: Map<string, number>
}

function findHeader(lines: Line[], mappings: ColumnMapping[], said: Dialect): Header {
  let nearest = { held: -1, missing: mappings[0]! }
  const delimiters: readonly Delimiter[] =
    said.delimiter === undefined ? DELIMITERS : [said.delimiter === ' ' ? '\t' : said.delimiter]
  for (const [index, line] of lines.entries()) {
    if (said.headerRow !== undefined && line.row !== said.headerRow) continue
    for (const delimiter of delimiters) {
      const names = headerNames(splitCells(line.text, delimiter))
      const at = new Map(names.map((name, i) => [name, i] as const).reverse())
      const missing = mappings.filter(m => !at.has(m.column))
      if (missing.length === 0) {
        const columnOf = new Map(mappings.map(m => [m.role, at.get(m.column)!]))
        return { index, delimiter, width: names.length, names, columnOf }
      }
      const held = mappings.length - missing.length
      if (held > nearest.held) nearest = { held, missing: missing[0]! }
    }
  }
  const { role, column } = nearest.missing
  throw new HypometError(
    'missing-column',
    `No line of the file holds all mapped columns; “${column}” (for ${role}) is not there.`,
    { path: `channels.${role}.column`, column },
  )
}

function isUnitsRow(cells: string[], mappings: ColumnMapping[], header: Header): boolean {
  const numeric = mappings.filter(m => m.unit).map(m => cells[header.columnOf.get(m.role)!] ?? '')
  return (
    numeric.some(c => c !== '') &&
    numeric.every(
      c => Number.isNaN(cellNumber(c, 'point')) && readStamp(c, 'day-first') === null && unitBehindNumber(c) === null,
    )
  )
}

function unitMismatches(cells: string[], mappings: ColumnMapping[], header: Header): Warning[] {
  return mappings.flatMap(({ role, column, unit }) => {
    const said = bare(cells[header.columnOf.get(role)!] ?? '')
    if (!unit || said === '') return []
    const meanings = [findUnit(said), findUnit(said, 'gravity')].filter(u => u !== null)
    const agrees = meanings.some(
      u =>
        sameDimension(u.dimension, unit.dimension) &&
        Math.abs((u.multiply / u.divide) * (unit.divide / unit.multiply) - 1) < 1e-12,
    )
    if (agrees || meanings.length === 0) return []
    return [
      {
        code: 'unit-mismatch',
        message: `The file says column “${column}” is in ${said}; the setup's unit for ${role} is used.`,
      },
    ]
  })
}

/** A unit without the brackets around it. */
const bare = (said: string): string => said.replace(/^[[({<]\s*|\s*[\])}>]$/g, '')

interface Row {
  row: number
  cells: string[]
}

function cellsOf(body: Line[], header: TableHead, warnings: Warning[]): Row[] {
  const rows: Row[] = []
  for (const [i, line] of body.entries()) {
    const cells = splitCells(line.text, header.delimiter)
    const filled = trimEnd(cells).length
    if (filled > header.width) throw ragged(line.row, filled, header.width)
    if (cells.length < header.width) {
      if (i < body.length - 1) throw ragged(line.row, cells.length, header.width)
      warnings.push({ code: 'truncated-row', message: `The last row (${line.row}) breaks off and is left out.` })
    } else rows.push({ row: line.row, cells })
  }
  return rows
}

function fillColumns(rows: Row[], mappings: ColumnMapping[], header: TableHead, warnings: Warning[]): RawTable {
  const table: RawTable = { rows: rows.map(r => r.row), numbers: {}, text: {}, lost: [], warnings }
  const { style, styles, open } = header.numbers
  if (open)
    warnings.push({
      code: 'number-ambiguous',
      message:
        `“${open.text}” may be ${Math.max(open.point, open.comma)} or ${Math.min(open.point, open.comma)}, ` +
        `and nothing in the file tells; taken as ${Math.min(open.point, open.comma)}.`,
    })
  const decimal: NumberStyle = style ?? (open?.text.includes(',') ? 'comma' : 'point')
  for (const { role, column, unit, scale } of mappings) {
    const at = header.columnOf.get(role)!
    if (!unit) {
      table.text[role] = rows.map(r => r.cells[at]!)
      continue
    }
    const values = new Float64Array(rows.length)
    let bad = 0
    let firstBad = 0
    let numbers = 0
    for (let i = 0; i < rows.length; i++) {
      const cell = withoutUnit(rows[i]!.cells[at]!, header.inCells[at])
      const number = cellNumber(cell, styles?.[at] ?? decimal)
      values[i] = toSi(number * scale, unit)
      if (!Number.isNaN(number)) numbers++
      else if (!isGap(cell) && bad++ === 0) firstBad = rows[i]!.row
    }
    if (numbers === 0)
      throw new HypometError('no-data', `Column “${column}” (for ${role}) holds no number.`, {
        path: `channels.${role}.column`,
        column,
      })
    if (bad > 0) {
      table.lost.push({ column, count: bad, row: firstBad, of: rows.length })
      warnings.push({
        code: 'bad-cell',
        message:
          `Column “${column}”: ${bad} ${bad === 1 ? 'cell is' : 'cells are'} no number, first in row ` +
          `${firstBad}; taken as gaps.`,
      })
    }
    table.numbers[role] = values
  }
  return table
}

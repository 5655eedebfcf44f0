import { HypometError } from '../error'
import type { NumberStyle } from '../quantity/number'
import { cellNumber, unitBehindNumber, withoutUnit, type NumbersSeen } from './cells'
import { decodeText } from './decode'
import { blanksAsTabs, type Dialect } from './dialect'
import { epochUnit } from './epoch'
import { headerNames, numberedNames, rowsBegin, seenIn } from './readTable'
import { datesSeen, readStamp, type DateOrder } from './stamps'
import { bracketed, knownUnit, unitSaid } from './unitSaid'
import { contentLines, DELIMITERS, splitCells, trimEnd, type Delimiter, type Line } from './lines'

export interface SniffedColumn {
  name: string
  /** From the units row or from brackets in the name; null where the file does not say. */
  unit: string | null
  samples: string[]
  isNumeric: boolean
  /** Whether it holds times of day, or dates and times. */
  isStamps: boolean
}

/** What a delimited text file's head looks like, before anything is imported. */
export interface Sniffed {
  delimiter: Delimiter | ' '
  /** How numbers are written, and one that may be two where that is not told. */
  numbers: NumbersSeen
  /** One of its dates that may be two days, by column; asked where the column is the clock. */
  openDates: Record<string, string>
  /** 0 where columns have no names. */
  headerRow: number
  unitsRow: number | null
  preamble: string[]
  columns: SniffedColumn[]
}

/** Delimiters that are tried where the usual ones do not fit. */
const FURTHER = ['|', ' '] as const

/**
 * Guesses the dialect of a delimited text file from its head: the header is the first line of two or more names that
 * is followed, at most a units row later, by a row of as many cells that holds numbers. Where no line is one, the file
 * may
 * be of rows alone.
 *
 * @param said  what a person knows better
 * @throws HypometError `empty-file`, `no-header`
 */
export function sniffTable(bytes: Uint8Array, said: Dialect = {}): Sniffed {
  const head = bytes.subarray(0, 256 * 1024)
  const plain = contentLines(decodeText(head))
  if (plain.length === 0) throw new HypometError('empty-file', 'The file holds no line.')
  const tries = said.delimiter === undefined ? [DELIMITERS, ...FURTHER.map(d => [d])] : [[said.delimiter]]
  for (const delimiters of tries) {
    const isBlank = delimiters[0] === ' '
    const lines = isBlank ? contentLines(decodeText(blanksAsTabs()(head))) : plain
    const found = headed(lines, isBlank ? ['\t'] : (delimiters as Delimiter[]), said)
    if (found) return isBlank ? { ...found, delimiter: ' ' } : found
  }
  for (const delimiters of tries) {
    const isBlank = delimiters[0] === ' '
    const lines = isBlank ? contentLines(decodeText(blanksAsTabs()(head))) : plain
    const found = said.headerRow ? null : unheaded(lines, isBlank ? ['\t'] : (delimiters as Delimiter[]), said)
    if (found) return isBlank ? { ...found, delimiter: ' ' } : found
  }
  throw said.headerRow
    ? new HypometError(
        'no-header',
        `Line ${said.headerRow} is no header: column names with rows of as many cells below it.`,
        { row: said.headerRow },
      )
    : new HypometError('no-header', 'No header line was found: a line of column names with rows of numbers below it.', {
        row: plain[0]!.row,
      })
}

function headed(lines: Line[], delimiters: readonly Delimiter[], said: Dialect): Sniffed | null {
  const { headerRow } = said
  if (headerRow === 0) return null
  for (let i = 0; i < Math.min(lines.length, 200); i++) {
    if (headerRow !== undefined && lines[i]!.row !== headerRow) continue
    for (const delimiter of delimiters) {
      const found = asHeader(lines, i, delimiter, said)
      if (found) return found
    }
  }
  return null
}

/** Rows alone. */
function unheaded(lines: Line[], delimiters: readonly Delimiter[], said: Dialect): Sniffed | null {
  for (const delimiter of delimiters) {
    const at = rowsBegin(lines, delimiter)
    const body = lines.slice(Math.max(0, at))
    const data = body.slice(0, SHOWN).map(l => splitCells(l.text, delimiter))
    const width = at < 0 ? 0 : trimEnd(data[0]!).length
    // One column alone may be any text with numbers in it, but for blanks, which are tried last.
    if (width < (delimiters[0] === '\t' && delimiters.length === 1 ? 1 : 2)) continue
    const { numbers, inCells } = seenIn(body, delimiter, width, undefined, said)
    const names = numberedNames(width)
    return {
      delimiter,
      numbers,
      openDates: openDatesIn(names, body, delimiter, said),
      headerRow: 0,
      unitsRow: null,
      preamble: lines.slice(0, at).map(l => l.text),
      columns: names.map((name, i) =>
        columnOf(
          name,
          inCells[i] ?? null,
          data.map(cells => withoutUnit(cells[i] ?? '', inCells[i])),
          numbers.style,
          said.dates,
        ),
      ),
    }
  }
  return null
}

function columnOf(
  name: string,
  unit: string | null,
  cells: string[],
  style: NumberStyle | undefined,
  dates: DateOrder | undefined,
): SniffedColumn {
  const isNumeric = cells.some(c => isNumber(c, style))
  // Which is the day does not matter for whether it is a date at all.
  const order = dates ?? datesSeen(cells)?.order
  const isStamp = (c: string) => (readStamp(c, order) ?? readStamp(c, 'day-first')) !== null
  const isStamps = !isNumeric && cells.some(isStamp)
  return { name, unit: isStamps ? 's' : unit, samples: cells.slice(0, 4), isNumeric: isNumeric || isStamps, isStamps }
}

/** Columns whose dates may be two days each. */
function openDatesIn(
  names: readonly string[],
  body: readonly Line[],
  delimiter: Delimiter,
  { dates }: Dialect,
): Record<string, string> {
  if (dates) return {}
  const rows = body.map(l => splitCells(l.text, delimiter))
  return Object.fromEntries(
    names.flatMap((name, i) => {
      const open = datesSeen(rows.map(cells => cells[i] ?? ''))?.open
      return open === undefined ? [] : [[name, open]]
    }),
  )
}

/**
 * Whether a row is of numbers with their units: most of its cells are, and in the same units as those of the next.
 * Before a table “Rate,10 Hz” is no row of it.
 */
function areWithUnits(cells: readonly string[], next: readonly string[]): boolean {
  const units = cells.map(c => unitBehindNumber(c)?.unit)
  const alike = units.filter((u, i) => u !== undefined && u === unitBehindNumber(next[i] ?? '')?.unit)
  return 2 * alike.length > trimEnd([...cells]).length
}

/** Rows that show what a column holds. */
const SHOWN = 29

function asHeader(lines: Line[], index: number, delimiter: Delimiter, said: Dialect): Sniffed | null {
  const cells = trimEnd(splitCells(lines[index]!.text, delimiter))
  const unnamed = cells.filter(c => c === '').length
  // Few may be unnamed, as an index is; more than are named is a line of something else.
  if (cells.length - unnamed < 2 || 2 * unnamed > cells.length || cells.some(n => isNumber(n))) return null
  const names = headerNames(cells)
  const body = lines.slice(index + 1, index + 1 + SHOWN).map(l => splitCells(l.text, delimiter))
  const hasNumbers = (at: number) => {
    const [cells, next] = [body[at], body[at + 1] ?? []]
    if (cells === undefined || cells.length < names.length) return false
    return cells.some(c => isNumber(c)) || areWithUnits(cells, next)
  }
  const unitsRow = !hasNumbers(0) && body[0] !== undefined && body[0].length >= names.length && hasNumbers(1)
  // A line with fewer cells than the words below it is preamble: its own commas made it look like names.
  if (unitsRow && trimEnd(body[0]!).length > names.length) return null
  // What stands there as “Height [m]” is a name, and this line preamble.
  if (unitsRow && body[0]!.some(c => knownUnit(c) === null && knownUnit(bracketed(c)) !== null)) return null
  // What spans several columns of a second header line names groups, not columns.
  if (unnamed > 0 && unitsRow && body[0]!.every(c => knownUnit(c) === null)) return null
  const data = unitsRow ? body.slice(1) : body
  if (!hasNumbers(unitsRow ? 1 : 0)) return null
  const rows = lines.slice(index + (unitsRow ? 2 : 1))
  const named = names.map((name, i) => unitSaid(name, unitsRow ? body[0]![i]! : ''))
  const { numbers, inCells } = seenIn(rows, delimiter, names.length, undefined, said, named)
  return {
    delimiter,
    numbers,
    openDates: openDatesIn(names, rows, delimiter, said),
    headerRow: lines[index]!.row,
    unitsRow: unitsRow ? lines[index + 1]!.row : null,
    preamble: lines.slice(0, index).map(l => l.text),
    columns: names.map((name, i) =>
      columnOf(
        name,
        inCells[i] ??
          named[i] ??
          epochUnit(
            name,
            data.map(cells => cells[i] ?? ''),
          ),
        data.map(cells => withoutUnit(cells[i] ?? '', inCells[i])),
        numbers.style,
        said.dates,
      ),
    ),
  }
}

/** In whichever style: one that may be two is a number, too. */
const isNumber = (cell: string, style: NumberStyle = 'point'): boolean => !Number.isNaN(cellNumber(cell, style))

/** A column's name without a unit in brackets at its end; the unit is shown with the numbers. */
export const nameAlone = (name: string): string =>
  knownUnit(bracketed(name)) === null ? name : name.replace(/\s*[[(][^\])]+[\])]\s*$/, '') || name

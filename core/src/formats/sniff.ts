import { HypometError } from '../error'
import { findUnit } from '../quantity/index'
import { cellNumber } from './cells'
import { decodeText } from './decode'
import { contentLines, DELIMITERS, splitCells, trimEnd, type Delimiter, type Line } from './lines'

export interface SniffedColumn {
  name: string
  /** From the units row or from brackets in the name; null where the file does not say. */
  unit: string | null
  samples: string[]
  isNumeric: boolean
}

/** What a delimited text file's head looks like, before anything is imported. */
export interface Sniffed {
  delimiter: Delimiter
  decimal: '.' | ','
  headerRow: number
  unitsRow: number | null
  preamble: string[]
  columns: SniffedColumn[]
}

/**
 * Guesses the dialect of a delimited text file from its head: the header is the first line of two or more names that
 * is followed, at most a units row later, by a row of as many cells that holds numbers.
 *
 * @throws HypometError `empty-file`, `no-header`
 */
export function sniffTable(bytes: Uint8Array): Sniffed {
  const lines = contentLines(decodeText(bytes.subarray(0, 256 * 1024)))
  if (lines.length === 0) throw new HypometError('empty-file', 'The file holds no line.')
  for (let i = 0; i < Math.min(lines.length, 200); i++) {
    for (const delimiter of DELIMITERS) {
      const found = asHeader(lines, i, delimiter)
      if (found) return found
    }
  }
  throw new HypometError('no-header', 'No header line was found: a line of column names with rows of numbers below it.', { row: lines[0]!.row })
}

function asHeader(lines: Line[], index: number, delimiter: Delimiter): Sniffed | null {
  const names = trimEnd(splitCells(lines[index]!.text, delimiter))
  if (names.length < 2 || names.some(n => n === '' || isNumber(n, delimiter))) return null
  const body = lines.slice(index + 1, index + 30).map(l => splitCells(l.text, delimiter))
  const hasNumbers = (cells: string[] | undefined) => cells !== undefined && cells.length >= names.length && cells.some(c => isNumber(c, delimiter))
  const unitsRow = !hasNumbers(body[0]) && body[0] !== undefined && body[0].length >= names.length && hasNumbers(body[1])
  const data = unitsRow ? body.slice(1) : body
  if (!hasNumbers(data[0])) return null
  return {
    delimiter,
    decimal: delimiter !== ',' && data.flat().some(c => /\d,\d/.test(c) && isNumber(c, delimiter)) ? ',' : '.',
    headerRow: lines[index]!.row,
    unitsRow: unitsRow ? lines[index + 1]!.row : null,
    preamble: lines.slice(0, index).map(l => l.text),
    columns: names.map((name, i) => {
      const samples = data.slice(0, 4).map(cells => cells[i] ?? '')
      return { name, unit: unitSaid(name, unitsRow ? body[0]![i]! : ''), samples, isNumeric: data.some(cells => isNumber(cells[i] ?? '', delimiter)) }
    }),
  }
}

/** The unit that a units row, or else brackets in the name, speak of; null where it is none that is known. */
export const unitSaid = (name: string, unitCell: string): string | null => knownUnit(unitCell) ?? knownUnit(bracketed(name))

const isNumber = (cell: string, delimiter: Delimiter): boolean => !Number.isNaN(cellNumber(cell, delimiter))

const bracketed = (name: string): string => /[[(]([^\])]+)[\])]\s*$/.exec(name)?.[1] ?? ''

function knownUnit(said: string): string | null {
  const bare = said.replace(/^[[({<]\s*|\s*[\])}>]$/g, '')
  return bare !== '' && findUnit(bare) ? bare : null
}

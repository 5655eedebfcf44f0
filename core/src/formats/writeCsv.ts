import Papa from 'papaparse'

export type CsvCell = string | number | boolean | null | undefined

/** Rows as comma-separated text (RFC 4180), each with its line end; a number that is none is an empty cell. */
export const writeCsv = (rows: readonly (readonly CsvCell[])[], newline: '\n' | '\r\n' = '\n'): string =>
  rows.length === 0 ? '' : Papa.unparse(rows.map(cells => cells.map(written)) as unknown[][], { newline }) + newline

const written = (cell: CsvCell) =>
  typeof cell === 'string' ? asWords(cell) : typeof cell === 'number' && Number.isNaN(cell) ? '' : cell

/** A number as people write it, which begins with a sign and is no formula. */
const NUMBER = /^[+−-]?\d[\d.,\s\u202f\u00a0]*(?:e[+-]?\d+)?(?:\s?[^\s=+@|!()]{1,12})?$/i

/** A cell that a spreadsheet would take for a formula, with an apostrophe before it. */
export const asWords = (cell: string): string => (/^[=+\-@\t\r]/.test(cell) && !NUMBER.test(cell) ? `'${cell}` : cell)

/** The same cell read back. */
export const fromWords = (cell: string): string => (/^'[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell)

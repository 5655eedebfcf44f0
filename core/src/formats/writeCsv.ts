import Papa from 'papaparse'

export type CsvCell = string | number | boolean | null | undefined

/** Rows as comma-separated text (RFC 4180), each with its line end; a number that is none is an empty cell. */
export const writeCsv = (rows: readonly (readonly CsvCell[])[], newline: '\n' | '\r\n' = '\n'): string =>
  rows.length === 0 ? '' : Papa.unparse(rows.map(cells => cells.map(written)) as unknown[][], { newline }) + newline

const written = (cell: CsvCell) => (typeof cell === 'number' && Number.isNaN(cell) ? '' : cell)

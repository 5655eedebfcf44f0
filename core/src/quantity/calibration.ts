import { HypometError } from '../error'

/**
 * Readings and what they mean, in rising order of readings; between them a straight line, beyond them the end pieces go
 * on.
 */
export type CalibrationTable = readonly (readonly [reading: number, value: number])[]

/**
 * Checks that a table can be read either way round: at least two points, readings rising, values rising or falling
 * throughout.
 *
 * @throws HypometError `calibration-table`
 */
export function checkCalibration(table: CalibrationTable, path = 'table'): void {
  const refuse = (message: string) => new HypometError('calibration-table', message, { path })
  if (table.length < 2) throw refuse('A calibration table has two points at least: reading and value.')
  if (table.flat().some(v => !Number.isFinite(v))) throw refuse('A calibration table holds numbers only.')
  const falls = table[1]![1] < table[0]![1]
  for (let i = 1; i < table.length; i++) {
    if (!(table[i]![0] > table[i - 1]![0]))
      throw refuse(`The readings of a calibration table rise; point ${i + 1} does not.`)
    if (falls ? !(table[i]![1] < table[i - 1]![1]) : !(table[i]![1] > table[i - 1]![1]))
      throw refuse(`The values of a calibration table go one way; point ${i + 1} turns back.`)
  }
}

/**
 * Turns readings into values by a table, in place.
 *
 * @param table  as checked by checkCalibration
 */
export function calibrate(readings: Float64Array, table: CalibrationTable): Float64Array {
  const last = table.length - 2
  let k = 0
  for (let i = 0; i < readings.length; i++) {
    const v = readings[i]!
    while (k < last && v > table[k + 1]![0]) k++
    while (k > 0 && v < table[k]![0]) k--
    const [x0, y0] = table[k]!
    const [x1, y1] = table[k + 1]!
    readings[i] = y0 + ((v - x0) * (y1 - y0)) / (x1 - x0)
  }
  return readings
}

/**
 * A table as people paste it: two columns a line, apart by blanks, tabs or semicolons. @throws HypometError
 * `calibration-table`
 */
export function readCalibration(text: string): [number, number][] {
  const rows = text
    .split(/\r?\n/)
    .map(l => l.trim())
    .filter(l => l !== '')
  const table = rows.map((line, i): [number, number] => {
    const cells = line.split(/[\t;]\s*|\s+/).map(c => Number(c.replace(',', '.')))
    if (cells.length !== 2 || cells.some(v => !Number.isFinite(v)))
      throw new HypometError('calibration-table', `Line ${i + 1} of the table is not a reading and a value.`, {
        path: 'table',
        row: i + 1,
      })
    return [cells[0]!, cells[1]!]
  })
  checkCalibration(table)
  return table
}

import { isHypometError } from '../error'
import { findUnit } from '../quantity/index'
import { blanksAsTabs, type Dialect } from './dialect'
import { readTable } from './readTable'
import type { SniffedColumn } from './sniff'

/** What a column looks like, before anything of it is imported: few points, no peak thinned away, gaps as null. */
export type Glance = (number | null)[]

const POINTS = 120
/** Columns that are drawn; a list of thousands is not looked at one by one. */
export const MOST_GLANCES = 60

/**
 * A column as a curve of few points: the least and the largest of each stretch, in the order in which they come.
 *
 * @param values  as read; gaps are NaN
 */
export function glanceOf(values: Float64Array): Glance {
  if (values.length <= POINTS) return Array.from(values, orNull)
  const stretches = POINTS / 2
  return Array.from({ length: stretches }, (_, i) => {
    const [from, to] = [0, 1].map(k => Math.floor(((i + k) * values.length) / stretches)) as [number, number]
    let [least, most] = [-1, -1]
    for (let k = from; k < to; k++) {
      if (Number.isNaN(values[k]!)) continue
      if (least < 0 || values[k]! < values[least]!) least = k
      if (most < 0 || values[k]! > values[most]!) most = k
    }
    return least < 0 ? [null, null] : [values[Math.min(least, most)]!, values[Math.max(least, most)]!]
  }).flat()
}

const orNull = (v: number): number | null => (Number.isFinite(v) ? v : null)

/**
 * Curves of a text's columns, as far as these bytes go, by name; none where the rows cannot be read as they are.
 *
 * @param bytes  a file's head, plain text; its last line may be cut
 */
export function glanceText(
  bytes: Uint8Array,
  columns: readonly SniffedColumn[],
  { delimiter, ...said }: Dialect,
): { rows: number; curves: Record<string, Glance> } {
  const plain = delimiter === ' ' ? blanksAsTabs()(bytes) : bytes
  const mappings = columns
    .filter(c => c.isNumeric && !c.isStamps)
    .slice(0, MOST_GLANCES)
    .map((c, i) => ({ role: `column ${i}`, column: c.name, unit: findUnit('1'), scale: 1 }))
  if (mappings.length === 0) return { rows: 0, curves: {} }
  try {
    const at = delimiter === ' ' ? '\t' : delimiter
    const whole = plain.subarray(0, plain.lastIndexOf(10) + 1)
    const { rows, numbers } = readTable(whole, mappings, { ...said, ...(at ? { delimiter: at } : {}) })
    const curves = Object.fromEntries(mappings.map(m => [m.column, glanceOf(numbers[m.role]!)]))
    return { rows: rows.length, curves }
  } catch (e) {
    if (isHypometError(e)) return { rows: 0, curves: {} }
    throw e
  }
}

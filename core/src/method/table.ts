import type { Kind } from '../quantity/index'
import type { SensorSpecification } from '../uncertainty/sensor'

/** A role that a family reads. `kind: 'any'` takes every unit; `optional` roles may be left out. */
export interface Role {
  label: string
  kind: Kind | 'any' | 'text'
  optional?: boolean
  /** Words by which a logger's column may name it; those of its kind where there are none. */
  aliases?: readonly string[]
}

/** Aligned SI columns of one record; gaps in free roles are NaN. `units` holds the SI unit of each role. */
export interface Table {
  t: Float64Array
  channels: Record<string, Float64Array>
  units: Record<string, string>
  /** Columns of words, row by row. */
  text?: Record<string, string[]>
}

/** What is known beside the record: the sensors behind the roles. */
export interface ReduceContext {
  sensors: Record<string, SensorSpecification>
  /** A record is moved only to see what its results do: tables and traces that cost time may be left out. */
  resultsOnly?: true
}

/** `as-read` leaves rows with a gap out; `even` wants an even time base and fills short gaps. */
export type TimeBase = 'as-read' | 'even'

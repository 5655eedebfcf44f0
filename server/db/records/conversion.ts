import type { CalibrationTable } from '@hypomet/core'

/**
 * From a stored number to SI: by a calibration table, or scale and offset, to the file's unit; from there step by step
 * as a
 * unit does it, so that the same digits come out as from the file; and for a clock what it is to be set by, s.
 */
export interface Conversion {
  table?: CalibrationTable
  scale: number
  offset?: number
  add?: number
  shift: number
  multiply: number
  divide: number
  /** As it was written or said. */
  unit?: string
}

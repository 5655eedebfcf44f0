import type { ClockState } from '@hypomet/core'

/** Where an import stands after its last stored block, so that it can go on from there. */
export interface ImportState {
  /** Bytes of text read, line ends included. */
  offset: number
  /** Number of the next line. */
  line: number
  seq: number
  rows: number
  /** Numbers found so far, by column. */
  numbers: number[]
  /** Extremes so far, by column; null where there is no number. */
  min: (number | null)[]
  max: (number | null)[]
  bad: { slot: number; count: number; firstRow: number }[]
  short: { row: number; has: number } | null
  clock: ClockState
}

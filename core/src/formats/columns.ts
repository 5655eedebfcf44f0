import type { NumbersSeen } from './cells'

/** Columns as a file of another kind than text holds them; what comes in counts is scaled as the file says. */
export interface ColumnTable {
  columns: { name: string; unit: string | null; values: Float64Array }[]
  /** What is worth knowing of the file: kind, rate, sheet. */
  about: string
  /** Of a workbook: how numbers that are kept as text are written. */
  numbers?: NumbersSeen
  /** Of a workbook: the sheet that was read, and all there are. */
  sheet?: string
  sheets?: string[]
}

export type BinaryFormat = 'wav' | 'npy' | 'npz' | 'xlsx' | 'parquet' | 'vibration'

const ascii = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to))

/** Kind of a file by its first bytes; null where it is text of rows and columns. */
export function formatOf(head: Uint8Array): BinaryFormat | null {
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WAVE') return 'wav'
  if (ascii(head, 0, 6) === '\u0093NUMPY') return 'npy'
  if (ascii(head, 0, 4) === 'PAR1') return 'parquet'
  if (ascii(head, 0, 4) === 'PK\u0003\u0004') return ascii(head, 30, 400).includes('.npy') ? 'npz' : 'xlsx'
  return /^ {4}-1\s*\r?\n\s*(58b?|151|164)\b/.test(ascii(head, 0, 200)) ? 'vibration' : null
}

/** Stamps of an even time base. */
export const evenStamps = (n: number, interval: number, from = 0): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => from + i * interval)

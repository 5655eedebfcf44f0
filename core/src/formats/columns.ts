import { HypometError } from '../error'
import type { NumbersSeen } from './cells'

export interface FileValues {
  name: string
  unit: string | null
  values: Float64Array
  /** Of stamps: the full second, counted from 1970, that they count from. */
  from?: number
  /** Cells that are neither numbers nor gaps, and the row of the first. */
  lost?: { count: number; row: number }
}

/** Columns as a file of another kind than text holds them; what comes in counts is scaled as the file says. */
export interface ColumnTable {
  columns: FileValues[]
  /** What is worth knowing of the file: kind, rate, sheet. */
  about: string
  /** Of a workbook: how numbers that are kept as text are written. */
  numbers?: NumbersSeen
  /** Of a workbook: the sheet that was read, and all there are. */
  sheet?: string
  sheets?: string[]
  /** Of a workbook: row of its header. */
  headerRow?: number
  /** What of the file was left out, and why. */
  left?: string[]
  /** Whether more rows follow than were asked for. */
  isCut?: boolean
}

/** Columns and numbers that a file which is read whole may hold. */
export const MOST_COLUMNS = 100_000
export const MOST_NUMBERS = 150e6

/** What a file claims is looked at before anything is made room for. @throws HypometError `too-large` */
export function assertRoom(rows: number, columns: number): void {
  if (columns > MOST_COLUMNS)
    throw new HypometError(
      'too-large',
      `This file claims ${columns.toLocaleString('en')} columns; up to ${MOST_COLUMNS.toLocaleString('en')} are read.`,
    )
  if (!(rows * columns <= MOST_NUMBERS))
    throw new HypometError(
      'too-large',
      `This file claims ${(rows * columns).toLocaleString('en')} numbers. Files of its kind are read whole, ` +
        'up to 150 million of them: split it, or export it as text, which may be of any length.',
    )
}

export type BinaryFormat = 'wav' | 'npy' | 'npz' | 'xlsx' | 'ods' | 'json' | 'parquet' | 'vibration'

const ascii = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to))

/** Kind of a file by its first bytes; null where it is text of rows and columns. */
export function formatOf(head: Uint8Array): BinaryFormat | null {
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WAVE') return 'wav'
  if (ascii(head, 0, 6) === '\u0093NUMPY') return 'npy'
  if (ascii(head, 0, 4) === 'PAR1') return 'parquet'
  if (ascii(head, 0, 4) === 'PK\u0003\u0004') return packedIn(head)
  if (isJson(head)) return 'json'
  return /^ {4}-1\s*\r?\n\s*(58b?|151|164)\b/.test(ascii(head, 0, 200)) ? 'vibration' : null
}

/** Kind of an archive by its first member; null where that is a file of another kind, text mostly. */
function packedIn(head: Uint8Array): BinaryFormat | null {
  const name = ascii(head, 30, 30 + head[26]! + 256 * head[27]!)
  if (name.endsWith('.npy')) return 'npz'
  if (name === 'mimetype') return 'ods'
  return /^(\[Content_Types\]\.xml|_rels\/|xl\/|docProps\/)/.test(name) ? 'xlsx' : null
}

/** Records or columns; a heading in brackets is none. */
function isJson(head: Uint8Array): boolean {
  const begins = new TextDecoder()
    .decode(head.subarray(0, 300))
    .replace(/^\ufeff/, '')
    .trimStart()
  return /^(\{\s*"|\{\s*$|\[\s*[[{]|\[\s*$)/.test(begins)
}

/** Stamps of an even time base. */
export const evenStamps = (n: number, interval: number, from = 0): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => from + i * interval)

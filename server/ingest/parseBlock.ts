import { BlockReader, type ParsedBlock, type RowLayout } from '@hypomet/core'
import { packColumns, type PackedColumns } from '../db/records/packedChunk'

export interface ParseRequest {
  bytes: Uint8Array<ArrayBuffer>
  length: number
  firstLine: number
}

/**
 * A block's columns but for the clock's, packed for the store; the clock's own numbers, where it has a column, come
 * along as they are.
 */
export interface ParseAnswer extends Omit<ParsedBlock, 'columns'> {
  packed: PackedColumns
  time: Float64Array
  /** What was asked, back again. */
  request: ParseRequest
}

export type ParseBlock = (request: ParseRequest) => Promise<ParseAnswer>

/** Several blocks at once, in whichever way; answers come in any order. */
export interface ParsePool {
  parse: ParseBlock
  /** Blocks that may be under way at a time. */
  width: number
  close(): Promise<unknown>
}

/** Reads and packs blocks of one file. The clock's column is not packed: it may still have to be put in order. */
export function blockParser(layout: RowLayout, timeSlot: number): (request: ParseRequest) => ParseAnswer {
  const reader = new BlockReader(layout)
  return request => {
    const { columns, ...rest } = reader.read(request.bytes, 0, request.length, request.firstLine)
    return {
      ...rest,
      request,
      time: columns[timeSlot]?.slice() ?? new Float64Array(0),
      packed: packColumns(columns.filter((_, slot) => slot !== timeSlot)),
    }
  }
}

export const parsedHere = (layout: RowLayout, timeSlot: number): ParsePool => {
  const parse = blockParser(layout, timeSlot)
  return { width: 1, parse: request => Promise.resolve().then(() => parse(request)), close: () => Promise.resolve() }
}

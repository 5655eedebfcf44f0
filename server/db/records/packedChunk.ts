import { crc32 } from 'node:zlib'
import type { Conversion } from './conversion'
import { calibrate, outline, OUTLINE_OF } from '@hypomet/core'
import { decodeChunk, encodeChunk } from './chunkCodec'

/** A chunk as it is stored: samples, what sums them up, and the extremes of each 64 for drawing. */
export interface PackedChunk {
  count: number
  gaps: number
  min: number | null
  max: number | null
  mean: number | null
  data: Buffer
  extremes: Buffer
  sum: number
}

/** What a chunk's bytes add up to: a page that was changed behind our back does not. */
export const sumOf = ({ data, extremes }: { data: Uint8Array; extremes: Uint8Array }): number =>
  crc32(extremes, crc32(data))

/** Samples that one pair of stored extremes stands for; the last pair of a chunk may stand for fewer. */
export const EXTREMES_OF = OUTLINE_OF

export function packChunk(values: Float64Array): PackedChunk {
  const { pairs, min, max, sum, count } = outline(values)
  const extremes = encodeChunk(pairs)
  const data = encodeChunk(values)
  return {
    count: values.length,
    gaps: values.length - count,
    min: count > 0 ? min : null,
    max: count > 0 ? max : null,
    mean: count > 0 ? sum / count : null,
    data,
    extremes,
    sum: sumOf({ data, extremes }),
  }
}

/**
 * Pairs of minimum and maximum, in turn; they are stored as all minima, then all maxima, for each alone changes little.
 */
export function extremesOf(chunk: { count: number; extremes: Uint8Array }): Float64Array {
  const n = Math.ceil(chunk.count / EXTREMES_OF)
  const parted = decodeChunk(chunk.extremes, 2 * n)
  const pairs = new Float64Array(2 * n)
  for (let i = 0; i < n; i++) {
    pairs[2 * i] = parted[i]!
    pairs[2 * i + 1] = parted[n + i]!
  }
  return pairs
}

/** Chunks of several columns in few buffers, so that they go from thread to thread at no cost. */
export interface PackedColumns {
  count: number
  /** For each column: bytes of its samples, bytes of its extremes, one after the other. */
  bytes: Uint8Array<ArrayBuffer>
  sizes: Uint32Array<ArrayBuffer>
  /** For each column: gaps, minimum, maximum, mean, checksum; NaN where there is none. */
  sums: Float64Array<ArrayBuffer>
}

const SUMS = 5

export function packColumns(columns: Float64Array[]): PackedColumns {
  const chunks = columns.map(packChunk)
  const sizes = Uint32Array.from(chunks.flatMap(c => [c.data.length, c.extremes.length]))
  const bytes = new Uint8Array(sizes.reduce((a, b) => a + b, 0))
  let at = 0
  for (const { data, extremes } of chunks) {
    bytes.set(data, at)
    bytes.set(extremes, (at += data.length))
    at += extremes.length
  }
  return {
    count: columns[0]?.length ?? 0,
    bytes,
    sizes,
    sums: Float64Array.from(chunks.flatMap(c => [c.gaps, c.min ?? NaN, c.max ?? NaN, c.mean ?? NaN, c.sum])),
  }
}

export function chunksOf({ count, bytes, sizes, sums }: PackedColumns): PackedChunk[] {
  let at = 0
  const take = (length: number) => Buffer.from(bytes.buffer, bytes.byteOffset + (at += length) - length, length)
  const found = (v: number) => (Number.isNaN(v) ? null : v)
  return Array.from({ length: sizes.length / 2 }, (_, i) => ({
    count,
    gaps: sums[SUMS * i]!,
    min: found(sums[SUMS * i + 1]!),
    max: found(sums[SUMS * i + 2]!),
    mean: found(sums[SUMS * i + 3]!),
    sum: sums[SUMS * i + 4]!,
    data: take(sizes[2 * i]!),
    extremes: take(sizes[2 * i + 1]!),
  }))
}

/** Stored numbers to SI, in place. */
export const converted = (values: Float64Array, c: Conversion | null): Float64Array => {
  if (!c) return values
  const { table, scale, offset = 0, shift, multiply, divide, add = 0 } = c
  if (table) calibrate(values, table)
  for (let i = 0; i < values.length; i++) values[i] = ((values[i]! * scale + offset + shift) * multiply) / divide + add
  return values
}

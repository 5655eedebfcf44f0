import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib'
import { counts } from '@hypomet/core'

/**
 * Samples of one chunk as bytes, without loss. What was written with a fixed number of decimals is kept as whole
 * counts,
 * differences in as few bits as they need. Anything else is kept as Float64, bytes apart, compressed. The first byte
 * says
 * which, the second how many decimals.
 */
export function encodeChunk(values: Float64Array): Buffer {
  const counted = inCounts(values)
  if (counted) return Buffer.concat([Buffer.from([COUNTS, counted.decimals]), counted.packed])
  const planes = planesOfFloats(values)
  return Buffer.concat([
    Buffer.from([FLOATS, 0]),
    brotliCompressSync(planes, {
      params: { [constants.BROTLI_PARAM_QUALITY]: 1, [constants.BROTLI_PARAM_SIZE_HINT]: planes.length },
    }),
  ])
}

const [FLOATS, COUNTS] = [0, 1]
const MOST_DECIMALS = 9

export function decodeChunk(data: Uint8Array, count: number): Float64Array {
  if (data[0] === COUNTS) return counts().unpack(data.subarray(2), count, 10 ** data[1]!)
  const planes = brotliDecompressSync(data.subarray(2))
  const values = new Float64Array(count)
  const bytes = new Uint8Array(values.buffer)
  for (let plane = 0; plane < 8; plane++)
    for (let i = 0, from = plane * count; i < count; i++) bytes[8 * i + plane] = planes[from + i]!
  return values
}

/** Whole counts over 10^decimals that give the very same numbers again; null where there are none. */
function inCounts(values: Float64Array): { packed: Uint8Array; decimals: number } | null {
  for (let decimals = decimalsOf(values); decimals <= MOST_DECIMALS; decimals++) {
    const packed = counts().pack(values, 10 ** decimals)
    if (packed) return { packed, decimals }
  }
  return null
}

const GLANCE = 8
const TEN = Array.from({ length: MOST_DECIMALS + 1 }, (_, i) => 10 ** i)

/** The fewest decimals that suffice for the first few numbers. */
function decimalsOf(values: Float64Array): number {
  let decimals = 0
  for (let i = 0; i < values.length && i < GLANCE; i++) {
    const v = values[i]!
    while (decimals <= MOST_DECIMALS && !Number.isNaN(v) && Math.round(v * TEN[decimals]!) / TEN[decimals]! !== v)
      decimals++
  }
  return decimals
}

function planesOfFloats(values: Float64Array): Uint8Array {
  const n = values.length
  const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength)
  const planes = new Uint8Array(8 * n)
  for (let plane = 0; plane < 8; plane++)
    for (let i = 0, to = plane * n; i < n; i++) planes[to + i] = bytes[8 * i + plane]!
  return planes
}

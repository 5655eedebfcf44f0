import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib'

/**
 * Samples of one chunk as bytes, without loss. What was written with a fixed number of decimals is kept as whole counts:
 * differences, folded to positive, byte by byte apart, compressed. Anything else is kept as Float64, bytes apart,
 * compressed. The first byte says which, the second how many decimals.
 */
export function encodeChunk(values: Float64Array): Buffer {
  const counted = countsOf(values)
  const planes = counted ? planesOfCounts(counted.counts) : planesOfFloats(values)
  const packed = brotliCompressSync(planes, { params: { [constants.BROTLI_PARAM_QUALITY]: 1, [constants.BROTLI_PARAM_SIZE_HINT]: planes.length } })
  return Buffer.concat([Buffer.from(counted ? [COUNTS, counted.decimals] : [FLOATS, 0]), packed])
}

const [FLOATS, COUNTS] = [0, 1]
/** Stands for a gap among counts. */
const GAP = -(2 ** 31)
const MOST_DECIMALS = 9

export function decodeChunk(data: Uint8Array, count: number): Float64Array {
  const planes = brotliDecompressSync(data.subarray(2))
  const values = new Float64Array(count)
  if (data[0] === FLOATS) {
    const bytes = new Uint8Array(values.buffer)
    for (let plane = 0; plane < 8; plane++) for (let i = 0, from = plane * count; i < count; i++) bytes[8 * i + plane] = planes[from + i]!
    return values
  }
  const scale = 10 ** data[1]!
  let before = 0
  for (let i = 0; i < count; i++) {
    const folded = (planes[i]! | (planes[count + i]! << 8) | (planes[2 * count + i]! << 16) | (planes[3 * count + i]! << 24)) >>> 0
    before = (before + ((folded >>> 1) ^ -(folded & 1))) | 0
    values[i] = before === GAP ? NaN : before / scale
  }
  return values
}

/** Whole counts over 10^decimals that give the very same numbers again; null where there are none. */
function countsOf(values: Float64Array): { counts: Int32Array; decimals: number } | null {
  const counts = new Int32Array(values.length)
  for (let decimals = decimalsOf(values); decimals <= MOST_DECIMALS; decimals++) if (fill(counts, values, 10 ** decimals)) return { counts, decimals }
  return null
}

const GLANCE = 64

/** The fewest decimals that suffice for the first few numbers. */
function decimalsOf(values: Float64Array): number {
  let decimals = 0
  for (let i = 0; i < values.length && i < GLANCE; i++) {
    const v = values[i]!
    while (decimals <= MOST_DECIMALS && !Number.isNaN(v) && Math.round(v * 10 ** decimals) / 10 ** decimals !== v) decimals++
  }
  return decimals
}

function fill(counts: Int32Array, values: Float64Array, scale: number): boolean {
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!
    const count = Math.round(v * scale)
    if (count / scale === v && count > GAP && count < 2 ** 31) counts[i] = count
    else if (Number.isNaN(v)) counts[i] = GAP
    else return false
  }
  return true
}

function planesOfCounts(counts: Int32Array): Uint8Array {
  const n = counts.length
  const planes = new Uint8Array(4 * n)
  let before = 0
  for (let i = 0; i < n; i++) {
    const difference = (counts[i]! - before) | 0
    before = counts[i]!
    const folded = (difference << 1) ^ (difference >> 31)
    planes[i] = folded
    planes[n + i] = folded >>> 8
    planes[2 * n + i] = folded >>> 16
    planes[3 * n + i] = folded >>> 24
  }
  return planes
}

function planesOfFloats(values: Float64Array): Uint8Array {
  const n = values.length
  const bytes = new Uint8Array(values.buffer, values.byteOffset, values.byteLength)
  const planes = new Uint8Array(8 * n)
  for (let plane = 0; plane < 8; plane++) for (let i = 0, to = plane * n; i < n; i++) planes[to + i] = bytes[8 * i + plane]!
  return planes
}

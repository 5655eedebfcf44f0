import { extremes } from '@hypomet/core'
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
}

/** Samples that one pair of stored extremes stands for; the last pair of a chunk may stand for fewer. */
export const EXTREMES_OF = 64

export function packChunk(values: Float64Array): PackedChunk {
  const { ofSamples, ofPairs } = extremes()
  const eights = new Float64Array(2 * Math.ceil(values.length / 8))
  const pairs = new Float64Array(2 * Math.ceil(values.length / EXTREMES_OF))
  ofSamples(values, eights)
  ofPairs(eights, pairs)
  return { ...summary(values), data: encodeChunk(values), extremes: encodeChunk(pairs) }
}

export const extremesOf = (chunk: { count: number; extremes: Uint8Array }): Float64Array => decodeChunk(chunk.extremes, 2 * Math.ceil(chunk.count / EXTREMES_OF))

function summary(values: Float64Array): Pick<PackedChunk, 'count' | 'gaps' | 'min' | 'max' | 'mean'> {
  let [min, max, sum, n] = [Infinity, -Infinity, 0, 0]
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!
    if (v < min) min = v
    if (v > max) max = v
    if (v === v) {
      sum += v
      n++
    }
  }
  const count = values.length
  return n === 0 ? { count, gaps: count, min: null, max: null, mean: null } : { count, gaps: count - n, min, max, mean: sum / n }
}

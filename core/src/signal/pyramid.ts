import { extremes, FACTOR, type Samples } from '../kernels/extremes'

export interface PyramidLevel<T extends Samples = Float64Array> {
  /** Samples that one pair stands for. */
  factor: number
  /** Minimum and maximum, interleaved; NaN where a block holds only gaps. */
  data: T
}

const SMALL_ENOUGH = 512

/**
 * Minima and maxima of blocks of 8, 64, 512 … samples, until a level has no more than 512 pairs, in the samples' own
 * precision.
 *
 * @param reuse  levels of an earlier record of the same length, written over
 */
export function buildPyramid<T extends Samples>(values: T, reuse: readonly PyramidLevel<T>[] = []): PyramidLevel<T>[] {
  const levels: PyramidLevel<T>[] = []
  const { ofSamples, ofPairs } = extremes()
  for (let factor = FACTOR; pairsAt(values.length, factor / FACTOR) > SMALL_ENOUGH; factor *= FACTOR) {
    const below = levels.at(-1)
    const length = 2 * pairsAt(values.length, factor)
    const data = reuse[levels.length]?.data.length === length ? reuse[levels.length]!.data : like(values, length)
    if (below) ofPairs(below.data, data)
    else ofSamples(values, data)
    levels.push({ factor, data })
  }
  return levels
}

const like = <T extends Samples>(values: T, length: number): T =>
  new (values.constructor as new (length: number) => T)(length)

const pairsAt = (length: number, factor: number): number => Math.ceil(length / factor)

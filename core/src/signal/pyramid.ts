export interface PyramidLevel {
  /** Samples that one pair stands for. */
  factor: number
  /** Minimum and maximum, interleaved; NaN where a block holds only gaps. */
  data: Float64Array
}

const FACTOR = 8

/** Minima and maxima of blocks of 8, 64, 512 … samples, until a level has fewer than 512 pairs. */
export function buildPyramid(values: Float64Array): PyramidLevel[] {
  const levels: PyramidLevel[] = []
  for (let factor = FACTOR; pairsAt(values.length, factor / FACTOR) > SMALL_ENOUGH; factor *= FACTOR) {
    const below = levels.at(-1)?.data
    const data = new Float64Array(2 * pairsAt(values.length, factor))
    if (below) reduce(below, 2, 1, data)
    else reduce(values, 1, 0, data)
    levels.push({ factor, data })
  }
  return levels
}

const SMALL_ENOUGH = 512

const pairsAt = (length: number, factor: number): number => Math.ceil(length / factor)

/** Eight entries of `from` to one pair; an entry is one sample, or a minimum with its maximum `other` further on. */
function reduce(from: Float64Array, stride: number, other: number, into: Float64Array): void {
  const entries = from.length / stride
  for (let i = 0, j = 0; j < into.length; i += FACTOR, j += 2) {
    let lo = Infinity
    let hi = -Infinity
    const end = stride * (i + FACTOR < entries ? i + FACTOR : entries)
    for (let k = stride * i; k < end; k += stride) {
      const a = from[k]!
      const b = from[k + other]!
      if (a < lo) lo = a
      if (b > hi) hi = b
    }
    into[j] = lo <= hi ? lo : NaN
    into[j + 1] = lo <= hi ? hi : NaN
  }
}

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
  let pairs = values.length
  for (let factor = FACTOR; pairs > 512; factor *= FACTOR) {
    const below = levels.at(-1)?.data
    pairs = Math.ceil(values.length / factor)
    const data = new Float64Array(2 * pairs)
    for (let i = 0; i < pairs; i++) {
      let [lo, hi] = [Infinity, -Infinity]
      const end = below ? Math.min(below.length / 2, (i + 1) * FACTOR) : Math.min(values.length, (i + 1) * FACTOR)
      for (let j = i * FACTOR; j < end; j++) {
        const [a, b] = below ? [below[2 * j]!, below[2 * j + 1]!] : [values[j]!, values[j]!]
        if (a < lo) lo = a
        if (b > hi) hi = b
      }
      data[2 * i] = lo <= hi ? lo : NaN
      data[2 * i + 1] = lo <= hi ? hi : NaN
    }
    levels.push({ factor, data })
  }
  return levels
}

import { kernelSpace } from './module'

/** Numbers that one pair of an outline stands for. */
export const OUTLINE_OF = 64

/** What a stretch of a channel is drawn and summed up by. */
export interface Outline {
  /** Minima of each 64 numbers, then their maxima; NaN where all are gaps. A view that the next call may write over. */
  pairs: Float64Array
  /** Infinity and −Infinity where there is no number. */
  min: number
  max: number
  sum: number
  count: number
}

export type Outliner = (values: Float64Array) => Outline

export const plainOutline: Outliner = values => {
  const n = Math.ceil(values.length / OUTLINE_OF)
  const pairs = new Float64Array(2 * n)
  let [min, max] = [Infinity, -Infinity]
  // Even and odd samples apart, as the kernel adds them.
  const [sum, count] = [
    [0, 0],
    [0, 0],
  ]
  for (let k = 0; k < n; k++) {
    let [low, high] = [Infinity, -Infinity]
    for (let i = k * OUTLINE_OF; i < Math.min(values.length, (k + 1) * OUTLINE_OF); i++) {
      const v = values[i]!
      if (v !== v) continue
      if (v < low) low = v + 0
      if (v > high) high = v + 0
      sum[i & 1]! += v
      count[i & 1]!++
    }
    pairs[k] = low > high ? NaN : low
    pairs[n + k] = low > high ? NaN : high
    if (low < min) min = low
    if (high > max) max = high
  }
  return { pairs, min, max, sum: sum[0]! + sum[1]!, count: count[0]! + count[1]! }
}

let space: ReturnType<typeof kernelSpace> = null
let capacity = 0

/** The same by the compiled kernel, where the platform has WebAssembly. */
export const outline: Outliner = values => {
  const n = values.length
  if (n > capacity) {
    capacity = Math.max(2 ** 17, n)
    space = kernelSpace(32 + 8 * capacity + 16 * Math.ceil(capacity / OUTLINE_OF))
  }
  if (!space) return plainOutline(values)
  const { kernels, memory } = space
  const pairs = Math.ceil(n / OUTLINE_OF)
  new Float64Array(memory, 32, n).set(values)
  const low = 32 + 8 * capacity
  kernels.outline(32, n, low, low + 8 * pairs, 0)
  const [min, max, sum, count] = new Float64Array(memory, 0, 4) as unknown as [number, number, number, number]
  return { pairs: new Float64Array(memory, low, 2 * pairs), min, max, sum, count }
}

import { kernelSpace } from './module'

/** What one look along a channel shows. */
export interface Surveyed {
  /** Infinity and −Infinity where all is gaps. */
  min: number
  max: number
  gaps: number
  /** Sample numbers; −1 where there is none. */
  firstGap: number
  flatStart: number
  /** Samples that are more than so many times the running mean of the last five steps away from the one before. */
  jumps: Uint32Array
}

export type Survey = (values: Float64Array, flatSamples: number, jumpFactor: number) => Surveyed

export const plainSurvey: Survey = (values, flatSamples, jumpFactor) => {
  let [min, max, gaps, firstGap, flatStart, start, last, mean, count] = [Infinity, -Infinity, 0, -1, -1, 0, NaN, 0, 0]
  const jumps = new Uint32Array(values.length)
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!
    if (v < min) min = v
    if (v > max) max = v
    if (v !== v && gaps++ === 0) firstGap = i
    if (v !== last) start = i
    else if (i - start + 1 === flatSamples && flatStart < 0) flatStart = start
    if (i > 0) {
      const jump = Math.abs(v - last)
      if (jump > jumpFactor * mean) jumps[count++] = i
      if (jump === jump) mean = 0.8 * mean + 0.2 * jump
    }
    last = v
  }
  return { min, max, gaps, firstGap, flatStart, jumps: jumps.subarray(0, count) }
}

let space: ReturnType<typeof kernelSpace> = null
let capacity = 0

/**
 * The same by the compiled kernel, where the platform has WebAssembly. Its jumps are a view that the next call writes
 * over.
 */
export const survey: Survey = (values, flatSamples, jumpFactor) => {
  const n = values.length
  if (n > capacity) space = kernelSpace(12 * (capacity = Math.max(2 ** 16, n)) + 64)
  if (!space) return plainSurvey(values, flatSamples, jumpFactor)
  const { kernels, memory } = space
  new Float64Array(memory, 32, n).set(values)
  const jumpsAt = 32 + 8 * capacity
  kernels.survey(32, n, flatSamples, jumpFactor, 0, jumpsAt)
  const [min, max] = new Float64Array(memory, 0, 2) as unknown as [number, number]
  const [gaps, firstGap, flatStart, count] = new Int32Array(memory, 16, 4) as unknown as [
    number,
    number,
    number,
    number,
  ]
  return { min, max, gaps, firstGap, flatStart, jumps: new Uint32Array(memory, jumpsAt, count) }
}

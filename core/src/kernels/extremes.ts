import { kernelSpace, type KernelSpace } from './module'

export type Samples = Float32Array | Float64Array

/** Samples, or pairs of minimum and maximum, that one pair of the level above stands for. */
export const FACTOR = 8

/** Fills a level of interleaved minima and maxima: from samples, or from the pairs of the level below. */
export interface Extremes {
  ofSamples<T extends Samples>(from: T, into: T): void
  ofPairs<T extends Samples>(from: T, into: T): void
}

/** The loops in TypeScript. Gaps (NaN) are passed over; a block of gaps only gives NaN; a zero is never negative. */
export const plainExtremes: Extremes = {
  ofSamples: (from, into) => reduce(from, 1, 0, into),
  ofPairs: (from, into) => reduce(from, 2, 1, into),
}

/** Eight entries of `from` to one pair; an entry is one sample, or a minimum with its maximum `other` further on. */
function reduce(from: Samples, stride: number, other: number, into: Samples): void {
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
    into[j] = lo <= hi ? lo + 0 : NaN
    into[j + 1] = lo <= hi ? hi + 0 : NaN
  }
}

/**
 * Bytes that are taken into the kernels' memory at a time: near enough to the processor, long enough to be worth the
 * call.
 */
const SLICE = 2 ** 18

let shared: Extremes | null | undefined

/** The compiled kernels where the platform has them, else the loops. */
export const extremes = (): Extremes => (shared ??= compiledExtremes()) ?? plainExtremes

/** The compiled kernels: slices go into their memory, are reduced there and come out; null without WebAssembly. */
export function compiledExtremes(): Extremes | null {
  const space = kernelSpace(2 * SLICE)
  return (
    space && {
      ofSamples: (from, into) => sliced(space, from, into, 1),
      ofPairs: (from, into) => sliced(space, from, into, 2),
    }
  )
}

function sliced(space: KernelSpace, from: Samples, into: Samples, stride: 1 | 2): void {
  const size = from.BYTES_PER_ELEMENT
  const Kind = from instanceof Float32Array ? Float32Array : Float64Array
  const input = new Kind(space.memory, 0, SLICE / size)
  const output = new Kind(space.memory, SLICE, SLICE / size)
  const kernel = kernelOf(space, size, stride)
  for (let at = 0, to = 0; at < from.length; at += input.length) {
    const some = from.subarray(at, at + input.length)
    input.set(some)
    // Blocks go several at a time; what is beyond the end counts as a gap.
    if (some.length < input.length) input.fill(NaN, some.length)
    const blocks = Math.ceil(some.length / (FACTOR * stride))
    kernel(blocks)
    into.set(output.subarray(0, 2 * blocks), to)
    to += 2 * blocks
  }
}

function kernelOf({ kernels }: KernelSpace, size: number, stride: 1 | 2): (blocks: number) => void {
  if (size === 4)
    return stride === 1
      ? blocks => kernels.samples32(0, Math.ceil(blocks / 4), SLICE)
      : blocks => kernels.pairs32(0, blocks, SLICE)
  return stride === 1
    ? blocks => kernels.samples64(0, Math.ceil(blocks / 2), SLICE)
    : blocks => kernels.pairs64(0, Math.ceil(blocks / 2), SLICE)
}

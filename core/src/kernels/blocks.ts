import { kernelSpace } from './module'

export type Arithmetic = 'plus' | 'minus' | 'times' | 'over'

/** Samples that are worked on at a time: few enough that all blocks of an expression stay near the processor. */
export const BLOCK = 512

/** Blocks of samples side by side, and arithmetic between them, named by their number. */
export interface Blocks {
  readonly values: Float64Array
  calculate(what: Arithmetic, out: number, a: number, b: number): void
}

/** Records shorter than this are done before a module is set up. */
const WORTH_COMPILING = 50_000

export const blocksFor = (count: number, recordLength: number): Blocks =>
  (recordLength >= WORTH_COMPILING ? compiledBlocks(count) : null) ?? plainBlocks(count)

export function plainBlocks(count: number): Blocks {
  const values = new Float64Array(count * BLOCK)
  return { values, calculate: (what, out, a, b) => LOOPS[what](values, out * BLOCK, a * BLOCK, b * BLOCK) }
}

export function compiledBlocks(count: number): Blocks | null {
  const space = kernelSpace(8 * BLOCK * count)
  if (!space) return null
  const { kernels, memory } = space
  return {
    values: new Float64Array(memory, 0, count * BLOCK),
    calculate: (what, out, a, b) => kernels[what](8 * BLOCK * out, 8 * BLOCK * a, 8 * BLOCK * b, BLOCK),
  }
}

const LOOPS: Record<Arithmetic, (values: Float64Array, out: number, a: number, b: number) => void> = {
  plus(v, out, a, b) {
    for (let i = 0; i < BLOCK; i++) v[out + i] = v[a + i]! + v[b + i]!
  },
  minus(v, out, a, b) {
    for (let i = 0; i < BLOCK; i++) v[out + i] = v[a + i]! - v[b + i]!
  },
  times(v, out, a, b) {
    for (let i = 0; i < BLOCK; i++) v[out + i] = v[a + i]! * v[b + i]!
  },
  over(v, out, a, b) {
    for (let i = 0; i < BLOCK; i++) v[out + i] = v[a + i]! / v[b + i]!
  },
}

import { kernelSpace } from './module'

/** Stands for a gap among counts. */
const GAP = -(2 ** 31)

/**
 * Numbers as whole counts over a scale and back: differences, folded to positive, their four bytes in four planes, so
 * that what hardly changes packs well. Gaps (NaN) are kept.
 */
export interface Counts {
  /** As many planes, one after the other, as hold anything; null where a number would not come back the same. A view that the next call may write over. */
  pack(values: Float64Array, scale: number): Uint8Array | null
  unpack(planes: Uint8Array, n: number, scale: number): Float64Array
}

export const plainCounts: Counts = {
  pack(values, scale) {
    const n = values.length
    const planes = new Uint8Array(4 * n)
    let [before, any] = [0, 1]
    for (let i = 0; i < n; i++) {
      const v = values[i]!
      const r = Math.floor(v * scale + 0.5)
      const isGap = v !== v
      if (!isGap && !(r / scale === v && r > GAP && r < 2 ** 31)) return null
      const count = isGap ? GAP : r
      const difference = (count - before) | 0
      before = count
      const folded = (difference << 1) ^ (difference >> 31)
      any |= folded
      planes[i] = folded
      planes[n + i] = folded >>> 8
      planes[2 * n + i] = folded >>> 16
      planes[3 * n + i] = folded >>> 24
    }
    return planes.subarray(0, (4 - (Math.clz32(any) >> 3)) * n)
  },
  unpack(packed, n, scale) {
    const planes = new Uint8Array(4 * n)
    planes.set(packed)
    const values = new Float64Array(n)
    let before = 0
    for (let i = 0; i < n; i++) {
      const folded = (planes[i]! | (planes[n + i]! << 8) | (planes[2 * n + i]! << 16) | (planes[3 * n + i]! << 24)) >>> 0
      before = (before + ((folded >>> 1) ^ -(folded & 1))) | 0
      values[i] = before === GAP ? NaN : before / scale
    }
    return values
  },
}

let shared: Counts | null | undefined

/** The compiled kernels where the platform has them, else the loops. */
export const counts = (): Counts => (shared ??= compiledCounts()) ?? plainCounts

export function compiledCounts(): Counts | null {
  let capacity = 2 ** 17
  let space = kernelSpace(12 * capacity)
  if (!space) return null
  const room = (n: number) => {
    if (n > capacity) space = kernelSpace(12 * (capacity = 2 ** Math.ceil(Math.log2(n))))
    return { kernels: space!.kernels, values: new Float64Array(space!.memory, 0, n), planes: new Uint8Array(space!.memory, 8 * capacity, 4 * n) }
  }
  return {
    pack(numbers, scale) {
      const { kernels, values, planes } = room(numbers.length)
      values.set(numbers)
      const held = kernels.pack(0, numbers.length, scale, 8 * capacity)
      return held > 0 ? planes.subarray(0, held * numbers.length) : null
    },
    unpack(packed, n, scale) {
      const { kernels, values, planes } = room(n)
      planes.set(packed)
      planes.fill(0, packed.length)
      kernels.unpack(8 * capacity, n, scale, 0)
      return values.slice()
    },
  }
}

import { kernelSpace } from './module'

/** Stands for a gap among counts. */
const GAP = -(2 ** 31)
const GROUP = 64

/**
 * Numbers as whole counts over a scale and back: differences, folded to positive, in groups of 64, each in as many bits
 * as
 * its widest needs. What hardly changes takes hardly any room. Gaps (NaN) are kept.
 */
export interface Counts {
  /** Null where a number would not come back the same. A view that the next call may write over. */
  pack(values: Float64Array, scale: number): Uint8Array | null
  unpack(packed: Uint8Array, n: number, scale: number): Float64Array
}

/** A byte for the width, and up to four a number. */
const mostBytes = (n: number): number => 5 * n + GROUP

export const plainCounts: Counts = {
  pack(values, scale) {
    const out = new Uint8Array(mostBytes(values.length))
    const group = new Uint32Array(GROUP)
    let [at, before] = [0, 0]
    for (let from = 0; from < values.length; from += GROUP) {
      const size = Math.min(GROUP, values.length - from)
      let any = 0
      for (let k = 0; k < size; k++) {
        const v = values[from + k]!
        const r = Math.floor(v * scale + 0.5)
        const isGap = v !== v
        if (!isGap && !(r / scale === v && r > GAP && r < 2 ** 31)) return null
        const count = isGap ? GAP : r
        const difference = (count - before) | 0
        before = count
        group[k] = (difference << 1) ^ (difference >> 31)
        any |= group[k]!
      }
      const width = 32 - Math.clz32(any)
      out[at++] = width
      // Up to 39 bits are held at a time: more than a 32-bit integer, less than a double holds exactly.
      let [held, bits] = [0, 0]
      for (let k = 0; k < size; k++) {
        held += group[k]! * 2 ** bits
        for (bits += width; bits >= 8; bits -= 8) {
          out[at++] = held % 256
          held = Math.floor(held / 256)
        }
      }
      if (bits > 0) out[at++] = held
    }
    return out.subarray(0, at)
  },
  unpack(packed, n, scale) {
    const values = new Float64Array(n)
    let [at, before] = [0, 0]
    for (let from = 0; from < n; from += GROUP) {
      const width = packed[at++]!
      let [held, bits] = [0, 0]
      for (let i = from; i < Math.min(n, from + GROUP); i++) {
        for (; bits < width; bits += 8) held += packed[at++]! * 2 ** bits
        const folded = held % 2 ** width
        held = Math.floor(held / 2 ** width)
        bits -= width
        before = (before + ((folded >>> 1) ^ -(folded & 1))) | 0
        values[i] = before === GAP ? NaN : before / scale
      }
    }
    return values
  },
}

let shared: Counts | null | undefined

/** The compiled kernels where the platform has them, else the loops. */
export const counts = (): Counts => (shared ??= compiledCounts()) ?? plainCounts

export function compiledCounts(): Counts | null {
  let capacity = 2 ** 17
  const made = () => kernelSpace(8 * capacity + 4 * GROUP + mostBytes(capacity))
  let space = made()
  if (!space) return null
  const room = (n: number) => {
    if (n > capacity) {
      capacity = 2 ** Math.ceil(Math.log2(n))
      space = made()
    }
    const group = 8 * capacity
    const at = group + 4 * GROUP
    return {
      kernels: space!.kernels,
      group,
      at,
      values: new Float64Array(space!.memory, 0, n),
      packed: new Uint8Array(space!.memory, at),
    }
  }
  return {
    pack(numbers, scale) {
      const { kernels, values, packed, group, at } = room(numbers.length)
      values.set(numbers)
      const bytes = kernels.pack(0, numbers.length, scale, group, at)
      return bytes > 0 || numbers.length === 0 ? packed.subarray(0, bytes) : null
    },
    unpack(bytes, n, scale) {
      const { kernels, values, packed, at } = room(n)
      packed.set(bytes)
      kernels.unpack(at, n, scale, 0)
      return values.slice()
    },
  }
}

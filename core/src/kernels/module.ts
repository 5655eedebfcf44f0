import { BINARY } from './binary'

/** What kernels.as exports; addresses are bytes. */
export interface Kernels {
  exchange(re: number, im: number, swap: number, pairs: number): void
  firstPairs(re: number, im: number, n: number): void
  firstQuads(re: number, im: number, n: number): void
  stage(re: number, im: number, n: number, quarter: number, w: number): void
  samples32(from: number, fours: number, into: number): void
  pairs32(from: number, blocks: number, into: number): void
  samples64(from: number, twos: number, into: number): void
  pairs64(from: number, twos: number, into: number): void
  weigh(x: number, window: number, n: number): void
  addPower(re: number, im: number, n: number, sum: number): void
  plus(out: number, a: number, b: number, n: number): void
  minus(out: number, a: number, b: number, n: number): void
  times(out: number, a: number, b: number, n: number): void
  pack(values: number, n: number, scale: number, group: number, out: number): number
  unpack(packed: number, n: number, scale: number, values: number): void
  outline(values: number, n: number, low: number, high: number, found: number): void
  survey(values: number, n: number, flat: number, factor: number, found: number, jumps: number): void
  scan(state: number, output: number, slots: number, tens: number): number
  over(out: number, a: number, b: number, n: number): void
}

export interface KernelSpace {
  kernels: Kernels
  memory: ArrayBuffer
}

/** The little of the platform's WebAssembly that is used here; undefined where a platform has none. */
declare const WebAssembly:
  | undefined
  | {
      Module: new (bytes: Uint8Array) => object
      Memory: new (o: { initial: number; maximum: number }) => { buffer: ArrayBuffer }
      Instance: new (module: object, imports: object) => { exports: unknown }
    }

const PAGE = 65_536

let compiled: object | null | undefined

/**
 * The compiled kernels over a memory of their own of at least `bytes` bytes; null where the platform or its content
 * policy
 * has no WebAssembly. Every kernel has a twin in TypeScript that gives the same bits.
 */
export function kernelSpace(bytes: number): KernelSpace | null {
  compiled ??= compile()
  if (!compiled || typeof WebAssembly === 'undefined') return null
  const pages = Math.ceil(bytes / PAGE)
  const memory = new WebAssembly.Memory({ initial: pages, maximum: pages })
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory } })
  return { kernels: exports as Kernels, memory: memory.buffer }
}

function compile(): object | null {
  if (typeof WebAssembly === 'undefined') return null
  try {
    return new WebAssembly.Module(fromBase64(BINARY))
  } catch {
    return null
  }
}

const ALPHABET = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'

function fromBase64(text: string): Uint8Array {
  const digits = text.replace(/=+$/, '')
  const bytes = new Uint8Array(Math.floor((digits.length * 3) / 4))
  let [held, bits, at] = [0, 0, 0]
  for (const digit of digits) {
    held = ((held << 6) | ALPHABET.indexOf(digit)) & 0xffff
    bits += 6
    if (bits >= 8) bytes[at++] = held >> (bits -= 8)
  }
  return bytes
}

import { constants, deflateRawSync, gzipSync } from 'node:zlib'
import { strToU8 } from 'fflate'

/** A file that somebody sends: what it claims, and what an honest reader makes of it. */
export interface Hostile {
  name: string
  make(): Uint8Array
  /** Rows where it can be read all the same; refused where it says none. */
  rows?: number
}

export const text = strToU8
export const join = (...parts: Uint8Array[]): Uint8Array => new Uint8Array(Buffer.concat(parts))
export const zeros = (n: number): Uint8Array => new Uint8Array(n)

/** Parts of an archive; one that is packed already says what it unpacks to. */
export type Parts = Record<string, Uint8Array | { packed: Uint8Array; size: number }>

/** @param says  the size that every head claims, where it is not the part's own */
export function zip(parts: Parts, says?: number): Uint8Array {
  const files: Uint8Array[] = []
  const list: Uint8Array[] = []
  let at = 0
  for (const [name, part] of Object.entries(parts)) {
    const { packed, size } = 'packed' in part ? part : { packed: deflateRawSync(part, { level: 1 }), size: part.length }
    const letters = text(name)
    // Version, flags, way of packing, time, date, checksum (which nobody looks at), sizes, lengths of name and rest.
    const about: [number, number][] = [
      [20, 2],
      [0, 2],
      [8, 2],
      [0, 2],
      [33, 2],
      [0, 4],
      [packed.length, 4],
      [says ?? size, 4],
      [letters.length, 2],
      [0, 2],
    ]
    const head = join(text('PK\u0003\u0004'), little(...about), letters)
    list.push(join(text('PK\u0001\u0002'), little([20, 2], ...about, [0, 2], [0, 2], [0, 2], [0, 4], [at, 4]), letters))
    files.push(head, packed)
    at += head.length + packed.length
  }
  const index = join(...list)
  const n = list.length
  return join(
    ...files,
    index,
    text('PK\u0005\u0006'),
    little([0, 2], [0, 2], [n, 2], [n, 2], [index.length, 4], [at, 4], [0, 2]),
  )
}

/** So many megabytes of one letter, packed. */
export function bomb(letter: string, megabytes: number): { packed: Uint8Array; size: number } {
  const piece = deflateRawSync(Buffer.alloc(2 ** 20, letter), { finishFlush: constants.Z_FULL_FLUSH })
  const packed = join(...Array.from({ length: megabytes }, () => piece), Uint8Array.of(3, 0))
  return { packed, size: megabytes * 2 ** 20 }
}

/** The same as a .gz file. */
export const packedBomb = (letter: string, megabytes: number): Uint8Array =>
  join(gzipSync('').subarray(0, 10), bomb(letter, megabytes).packed, zeros(8))

/** Numbers one after the other, each in so many bytes, the lowest first. */
export function little(...numbers: [value: number, bytes: number][]): Uint8Array {
  const out = Buffer.alloc(numbers.reduce((n, [, bytes]) => n + bytes, 0))
  let at = 0
  for (const [value, bytes] of numbers) {
    for (let i = 0; i < bytes; i++) out[at + i] = Math.floor(value / 256 ** i) & 255
    at += bytes
  }
  return out
}

/** Bytes of which some are replaced. */
export function spoilt(bytes: Uint8Array, at: number, by: Uint8Array): Uint8Array {
  const out = bytes.slice()
  out.set(by, at < 0 ? out.length + at : at)
  return out
}

/** Without order, and the same every time. */
export function noise(n: number, seed = 1): Uint8Array {
  const out = new Uint8Array(n)
  let s = seed
  for (let i = 0; i < n; i++) {
    s = (Math.imul(s, 1_664_525) + 1_013_904_223) >>> 0
    out[i] = s >>> 24
  }
  return out
}

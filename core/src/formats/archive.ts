import { Gunzip, Inflate, Unzip, UnzipInflate, UnzipPassThrough, type UnzipFile } from 'fflate'
import { HypometError, isHypometError } from '../error'

/** What a part of an archive is taken in with: piece by piece; `enough` ends it. */
export type TakePart = (piece: Uint8Array, isLast: boolean, enough: () => void) => void

/** Bytes that are unpacked at one step: what comes out of them is a thousand times as much at most. */
const STEP = 16 * 1024
const MOST_UNPACKED = 4 * 2 ** 30

/** One that stops where it is told to. */
class Inflating extends UnzipInflate {
  private isOver = false

  terminate = (): void => {
    this.isOver = true
  }

  override push(piece: Uint8Array, isLast: boolean): void {
    if (!this.isOver) super.push(piece, isLast)
  }
}

/** Text of numbers packs some ten times; what is of more and large is filled with nothing. */
const MOST_TIMES = 250
const LARGE = 24 * 2 ** 20

/**
 * Goes through an archive in the order of its parts, unpacking those that are wanted and no other; what its heads say
 * of sizes is not believed.
 *
 * @param wanted  what takes a part in, by its name; null leaves it
 * @param isText  whether its parts are text, which never packs to nothing
 * @throws HypometError `truncated-file`, `too-large`
 */
export function eachPart(bytes: Uint8Array, wanted: (name: string) => TakePart | null, isText = false): void {
  let unpacked = 0
  let isComplete = true
  let refused: unknown
  const unzip = new Unzip((file: UnzipFile) => {
    const take = wanted(file.name)
    if (!take) return
    let isOver = false
    isComplete = false
    file.ondata = (e, piece, isLast) => {
      if (e) throw e
      if (isOver) return
      unpacked += piece.length
      if (unpacked > MOST_UNPACKED)
        throw new HypometError('too-large', 'This archive unpacks to more than 4 GB; it is not read.')
      if (isText && unpacked > LARGE && unpacked > MOST_TIMES * bytes.length)
        throw new HypometError(
          'too-large',
          `This archive unpacks to more than ${MOST_TIMES} times its size: it holds filling, and no table.`,
        )
      if (isLast) isComplete = true
      try {
        take(piece, isLast, () => {
          isOver = isComplete = true
        })
      } catch (e) {
        refused = e
        throw e
      }
      if (isOver) file.terminate()
    }
    file.start()
  })
  unzip.register(Inflating)
  unzip.register(UnzipPassThrough)
  try {
    for (let at = 0; at < bytes.length; at += STEP) unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length)
  } catch (e) {
    throw (
      refused ?? (isHypometError(e) ? e : new HypometError('truncated-file', 'The archive breaks off or is damaged.'))
    )
  }
  if (!isComplete) throw new HypometError('truncated-file', 'The archive breaks off or is damaged.')
}

/**
 * A part whole.
 *
 * @param most  bytes that it may unpack to
 * @throws HypometError `too-large`
 */
export function whole(most: number, done: (bytes: Uint8Array) => void): TakePart {
  const pieces: Uint8Array[] = []
  let size = 0
  return (piece, isLast) => {
    pieces.push(piece)
    size += piece.length
    if (size > most)
      throw new HypometError(
        'too-large',
        `A part of this archive unpacks to more than ${(most / 2 ** 20).toFixed(0)} MB; it is not read.`,
      )
    if (isLast) done(joined(pieces, size))
  }
}

export function joined(pieces: readonly Uint8Array[], size: number): Uint8Array {
  const all = new Uint8Array(size)
  let at = 0
  for (const p of pieces) {
    all.set(p, at)
    at += p.length
  }
  return all
}

/** What the first rows of a packed file are looked for in. */
const ENOUGH = 64 * 2 ** 20

/**
 * The beginning of packed bytes, as far as they go: unpacked by steps, until it is enough, they end or are damaged.
 *
 * @throws HypometError `truncated-file` where nothing of them can be unpacked
 */
export function beginningOf(bytes: Uint8Array, packed: 'gzip' | 'deflate'): Uint8Array {
  const pieces: Uint8Array[] = []
  let size = 0
  const stream = packed === 'gzip' ? new Gunzip() : new Inflate()
  stream.ondata = piece => {
    pieces.push(piece)
    size += piece.length
  }
  try {
    for (let at = 0; at < bytes.length && size < ENOUGH; at += STEP) stream.push(bytes.subarray(at, at + STEP), false)
  } catch {
    // What stands before the damage can be looked at; who reads the file whole says where it breaks off.
    if (size === 0) throw new HypometError('truncated-file', 'The compressed file is damaged at its very beginning.')
  }
  return joined(pieces, size)
}

import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import { createGunzip, createInflateRaw, type Gunzip, type InflateRaw } from 'node:zlib'
import { blanksAsTabs, HypometError } from '@hypomet/core'
import { wideText } from './wideText'
import { assertOneMember, zipMember } from './zipMember'

/** Whole lines of a file's text, one byte a character where it matters. */
export interface TextBlock {
  bytes: Uint8Array<ArrayBuffer>
  length: number
  /** Bytes of text up to the end of this block. */
  offset: number
  isLast: boolean
  /** Share of the file that has been read. */
  share: number
}

/** What unpacks to more than this many times its size, and to more than a gigabyte, is not a record. */
const MOST_UNPACKED = 200
const GIGABYTE = 2 ** 30

/**
 * Reads a file as blocks of whole lines: as it is, unpacked from gzip, or turned from UTF-16.
 *
 * @param o.from  bytes of text to pass over
 * @param o.spare  buffers that may be filled again
 * @param o.isBlank  whether columns are set apart by blanks; they come as tabs then
 * @throws HypometError `truncated-file`, `too-large`, `line-too-long`
 */
export async function* textBlocks(
  path: string,
  size: number,
  o: { from?: number; spare?: Uint8Array<ArrayBuffer>[]; isBlank?: boolean } = {},
): AsyncGenerator<TextBlock> {
  const { from = 0, spare = [], isBlank = false } = o
  const { size: total } = await stat(path)
  await assertOneMember(path)
  const source = createReadStream(path, { highWaterMark: 1 << 20 })
  let [bytes, filled, offset, passed] = [new Uint8Array(size), 0, from, from]
  const block = (end: number, isLast: boolean): TextBlock => ({
    bytes,
    length: end,
    offset: (offset += end),
    isLast,
    share: total === 0 ? 1 : Math.min(1, source.bytesRead / total),
  })
  for await (const piece of isBlank ? tabbed(asText(source, total)) : asText(source, total)) {
    const part = piece.subarray(Math.min(passed, piece.length))
    passed -= piece.length - part.length
    for (let at = 0; at < part.length;) {
      const some = part.subarray(at, at + bytes.length - filled)
      bytes.set(some, filled)
      filled += some.length
      at += some.length
      if (filled < bytes.length) continue
      const end = lastLineEnd(bytes)
      if (end === 0)
        throw new HypometError(
          'line-too-long',
          `A line is longer than ${Math.round(size / 1024 ** 2)} MB; this is no table of numbers.`,
        )
      const rest = bytes.slice(end, filled)
      yield block(end, false)
      bytes = spared(spare, size)
      bytes.set(rest)
      filled = rest.length
    }
  }
  if (filled > 0 || offset === from) yield block(filled, true)
}

function spared(spare: Uint8Array<ArrayBuffer>[], size: number): Uint8Array<ArrayBuffer> {
  for (let next = spare.pop(); next; next = spare.pop()) if (next.length === size) return next
  return new Uint8Array(size)
}

/** After the last line end; a carriage return at the very end may be half of one, and waits. */
function lastLineEnd(bytes: Uint8Array): number {
  for (let i = bytes.length - 1; i > 0; i--) {
    if (bytes[i] === 10) return i + 1
    if (bytes[i] === 13 && i < bytes.length - 1) return i + 1
  }
  return 0
}

async function* tabbed(text: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const through = blanksAsTabs()
  for await (const piece of text) yield through(piece)
}

async function* asText(source: AsyncIterable<Buffer>, total: number): AsyncGenerator<Uint8Array> {
  const [peeked, first] = await headOf(source)
  const member = zipMember(first)
  if (first[0] === 0x1f && first[1] === 0x8b) yield* recoded(unpacked(peeked, total, createGunzip()))
  else if (member?.isStored) yield* recoded(within(peeked, member.from, member.size))
  else if (member) yield* recoded(unpacked(within(peeked, member.from, Infinity), total, createInflateRaw()))
  else yield* recoded(peeked)
}

/** Bytes from a place on, so many of them. */
async function* within(source: AsyncIterable<Uint8Array>, from: number, size: number): AsyncGenerator<Uint8Array> {
  let [passed, left] = [from, size]
  for await (const part of source) {
    const some = part.subarray(Math.min(passed, part.length)).subarray(0, left)
    passed -= Math.min(passed, part.length)
    left -= some.length
    if (some.length > 0) yield some
    if (left <= 0) return
  }
}

async function* unpacked(
  source: AsyncIterable<Uint8Array>,
  total: number,
  gunzip: Gunzip | InflateRaw,
): AsyncGenerator<Uint8Array> {
  let out = 0
  void (async () => {
    try {
      for await (const part of source)
        if (!gunzip.write(part)) await new Promise(resolve => gunzip.once('drain', resolve))
      gunzip.end()
    } catch (e) {
      gunzip.destroy(e as Error)
    }
  })()
  try {
    for await (const part of gunzip as AsyncIterable<Buffer>) {
      out += part.length
      if (out > GIGABYTE && out > MOST_UNPACKED * total)
        throw new HypometError(
          'too-large',
          `This file unpacks to more than ${MOST_UNPACKED} times its size; it is not read further.`,
        )
      yield part
    }
  } catch (e) {
    if (e instanceof HypometError) throw e
    throw new HypometError(
      'truncated-file',
      `The compressed file breaks off or is damaged after ${Math.round(out / 1024)} kB of text.`,
    )
  }
}

/** UTF-16 becomes UTF-8; all else stays as it is, for numbers are the same in either. */
async function* recoded(source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const [peeked, first] = await headOf(source)
  const wide = wideText(first)
  if (!wide) return yield* peeked
  const decoder = new TextDecoder(wide)
  for await (const part of peeked) yield Buffer.from(decoder.decode(part, { stream: true }))
  yield Buffer.from(decoder.decode())
}

/** The first part of a stream, and the stream with it still in front. */
async function headOf(source: AsyncIterable<Uint8Array>): Promise<[AsyncIterable<Uint8Array>, Uint8Array]> {
  const parts = source[Symbol.asyncIterator]()
  const first = await parts.next()
  const all = async function* () {
    if (first.done) return
    yield first.value
    for (let next = await parts.next(); !next.done; next = await parts.next()) yield next.value
  }
  return [all(), first.done ? new Uint8Array(0) : first.value]
}

/** The first bytes of a file's text, unpacked and turned; enough to see what it is. */
export async function textHead(path: string, most: number, isBlank = false): Promise<Uint8Array> {
  try {
    for await (const { bytes, length } of textBlocks(path, most, { isBlank })) return bytes.subarray(0, length)
  } catch (e) {
    if (!(e instanceof HypometError) || e.code !== 'line-too-long') throw e
    throw new HypometError('not-text', 'This file is not text: no line ends where a table would have them.')
  }
  return new Uint8Array(0)
}

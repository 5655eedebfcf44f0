import { beginningOf, HypometError } from '@hypomet/core'
import { wideText } from './wideText'
import { zipMember } from './zipMember'

/**
 * Text of a file's first bytes, as they came: unpacked as far as they go, turned from UTF-16. @throws HypometError
 * `not-text`
 */
export function headText(bytes: Uint8Array): Uint8Array {
  assertReadable(bytes)
  const plain = packedText(bytes)
  const wide = wideText(plain)
  if (wide) return new TextEncoder().encode(new TextDecoder(wide).decode(plain.subarray(0, plain.length & ~1)))
  if (plain.subarray(0, 4096).includes(0))
    throw new HypometError('not-text', 'This file is not text; a table of numbers with column names is wanted.')
  return plain
}

/** Files of a kind that is known and not read. @throws HypometError `not-supported` */
function assertReadable(bytes: Uint8Array): void {
  const begins = Buffer.from(bytes.subarray(0, 8)).toString('hex')
  const [, kind] = NOT_READ.find(([magic]) => begins.startsWith(magic)) ?? []
  if (kind !== undefined) throw new HypometError('not-supported', kind)
}

const NOT_READ: readonly (readonly [magic: string, words: string])[] = [
  ['d0cf11e0a1b11ae1', 'This is a workbook of the old binary kind: save it as .xlsx, .ods or CSV.'],
  ['25504446', 'This is a PDF; a table as text or in a workbook is read.'],
  ['89504e47', 'This is a picture; a table as text or in a workbook is read.'],
  ['ffd8ff', 'This is a picture; a table as text or in a workbook is read.'],
  ['894844460d0a1a0a', 'Files of this kind are not read: write its tables as Parquet, .npz or CSV.'],
  ['377abcaf271c', 'This archive is not read: unpack it, or pack the one table as .zip or .gz.'],
]

function packedText(bytes: Uint8Array): Uint8Array {
  const member = zipMember(bytes)
  if (member?.isStored) return bytes.subarray(member.from, member.from + Math.min(member.size, bytes.length))
  if (member) return beginningOf(bytes.subarray(member.from), 'deflate')
  return bytes[0] === 0x1f && bytes[1] === 0x8b ? beginningOf(bytes, 'gzip') : bytes
}

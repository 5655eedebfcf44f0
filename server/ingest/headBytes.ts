import { constants, gunzipSync } from 'node:zlib'
import { HypometError } from '@hypomet/core'
import { wideText } from './wideText'

/**
 * Text of a file's first bytes, as they came: unpacked as far as they go, turned from UTF-16. @throws HypometError
 * `not-text`
 */
export function headText(bytes: Uint8Array): Uint8Array {
  const plain = bytes[0] === 0x1f && bytes[1] === 0x8b ? unpacked(bytes) : bytes
  const wide = wideText(plain)
  if (wide) return new TextEncoder().encode(new TextDecoder(wide).decode(plain.subarray(0, plain.length & ~1)))
  if (plain.subarray(0, 4096).includes(0))
    throw new HypometError('not-text', 'This file is not text; a table of numbers with column names is wanted.')
  return plain
}

function unpacked(bytes: Uint8Array): Uint8Array {
  try {
    return gunzipSync(bytes, { finishFlush: constants.Z_SYNC_FLUSH, maxOutputLength: 64 * 1024 ** 2 })
  } catch {
    throw new HypometError('truncated-file', 'The compressed file is damaged at its very beginning.')
  }
}

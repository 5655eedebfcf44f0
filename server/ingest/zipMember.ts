import { open, stat } from 'node:fs/promises'
import { HypometError } from '@hypomet/core'

/** Where the bytes of an archive’s first member lie. */
export interface ZipMember {
  name: string
  from: number
  /** Bytes that it has there; 0 where that is said behind it. */
  size: number
  isStored: boolean
}

/**
 * The first member of a .zip by its own head; null where a file is no such archive.
 *
 * @throws HypometError `not-supported` where it is packed in another way, or needs a password
 * @source PKWARE .ZIP File Format Specification 6.3.10, 4.3.7
 */
export function zipMember(head: Uint8Array): ZipMember | null {
  if (head.length < 30 || head[0] !== 0x50 || head[1] !== 0x4b || head[2] !== 3 || head[3] !== 4) return null
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength)
  const [flags, method] = [view.getUint16(6, true), view.getUint16(8, true)]
  const name = Buffer.from(head.subarray(30, 30 + view.getUint16(26, true))).toString('utf8')
  if (flags & 1)
    throw new HypometError('not-supported', `“${name}” in this archive is locked by a password: unpack it.`)
  // Of what is not packed and whose size stands behind it nobody knows where it ends.
  if ((method !== 0 && method !== 8) || (method === 0 && (flags & 8 || view.getUint32(18, true) === 0)))
    throw new HypometError('not-supported', `“${name}” is packed in a way that is not read: unpack it.`)
  return {
    name,
    from: 30 + view.getUint16(26, true) + view.getUint16(28, true),
    size: view.getUint32(18, true),
    isStored: method === 0,
  }
}

const [TAIL, END, ENTRY] = [66_000, 0x06054b50, 0x02014b50]

/**
 * Of several tables in one archive nobody can say which is meant. What belongs to the archiver alone does not count.
 *
 * @throws HypometError `several-files`
 */
export async function assertOneMember(path: string): Promise<void> {
  const { size } = await stat(path)
  const file = await open(path)
  try {
    const start = Buffer.alloc(4)
    await file.read(start, 0, 4, 0)
    if (start.readUInt32LE(0) !== 0x04034b50) return
    const tail = Buffer.alloc(Math.min(TAIL, size))
    await file.read(tail, 0, tail.length, size - tail.length)
    const end = tail.lastIndexOf(Buffer.from('PK\u0005\u0006', 'latin1'))
    if (end < 0 || tail.readUInt32LE(end) !== END) return
    const [bytes, at] = [tail.readUInt32LE(end + 12), tail.readUInt32LE(end + 16)]
    const list = Buffer.alloc(Math.min(bytes, size))
    await file.read(list, 0, list.length, at)
    const names = namesIn(list).filter(n => !n.endsWith('/') && !/(^|\/)(__MACOSX|\.)/.test(n))
    if (names.length > 1)
      throw new HypometError(
        'several-files',
        `This archive holds ${names.length} files: ${names.slice(0, 4).join(', ')}${names.length > 4 ? ' …' : ''}. ` +
          'Unpack it and choose one.',
      )
  } finally {
    await file.close()
  }
}

function namesIn(list: Buffer): string[] {
  const names: string[] = []
  for (let at = 0; at + 46 <= list.length && list.readUInt32LE(at) === ENTRY;) {
    const [name, extra, note] = [list.readUInt16LE(at + 28), list.readUInt16LE(at + 30), list.readUInt16LE(at + 32)]
    names.push(list.toString('utf8', at + 46, at + 46 + name))
    at += 46 + name + extra + note
  }
  return names
}

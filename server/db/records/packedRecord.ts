import { HypometError, type StoredRecord } from '@hypomet/core'

/** More numbers than that are left on the server, which then reduces. */
const MOST_NUMBERS = 16_000_000

/**
 * A record for a browser: four bytes with the length of a JSON head, the head, and the columns as Float64 on a multiple
 * of
 * eight. @throws HypometError `too-large`
 */
export function packRecord({ columns, beside = {}, ...about }: StoredRecord, more: Record<string, unknown>): Buffer {
  const roles = [...Object.keys(columns), ...Object.keys(beside)]
  const rows = columns['t']?.length ?? 0
  if (rows * roles.length > MOST_NUMBERS)
    throw new HypometError('too-large', 'This record is reduced on the server: it is too long to be sent.')
  const head = Buffer.from(JSON.stringify({ rows, roles, ...about, beside: without(beside), ...more }))
  const from = 8 * Math.ceil((4 + head.length) / 8)
  const packed = Buffer.alloc(from + 8 * rows * roles.length)
  packed.writeUInt32LE(head.length, 0)
  head.copy(packed, 4)
  roles.forEach((role, i) => {
    const { buffer, byteOffset, byteLength } = columns[role] ?? beside[role]!.y
    packed.set(new Uint8Array(buffer, byteOffset, byteLength), from + 8 * rows * i)
  })
  return packed
}

/** What is said of channels beside their samples. */
const without = (beside: NonNullable<StoredRecord['beside']>) =>
  Object.fromEntries(Object.entries(beside).map(([name, { unit, isStrain }]) => [name, { unit, isStrain }]))

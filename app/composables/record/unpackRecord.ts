/**
 * A record as the server packs it: the length of a JSON head, the head, then columns of Float64 on a multiple of eight.
 */
export function unpackRecord<Head extends { rows: number; roles: string[] }>(
  packed: ArrayBuffer,
): { head: Head; columns: Record<string, Float64Array> } {
  const length = new DataView(packed).getUint32(0, true)
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(packed, 4, length))) as Head
  const from = 8 * Math.ceil((4 + length) / 8)
  return {
    head,
    columns: Object.fromEntries(
      head.roles.map((role, i) => [role, new Float64Array(packed, from + 8 * head.rows * i, head.rows)]),
    ),
  }
}

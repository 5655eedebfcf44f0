/** How much of a text is looked at, and how often its other bytes must be nothing. */
const LOOKED = 4096
const MOSTLY = 0.8

/** UTF-16 by its byte order mark, or by every other byte being nothing, as where letters and figures are written so. */
export function wideText(bytes: Uint8Array): 'utf-16le' | 'utf-16be' | null {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le'
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be'
  const head = bytes.subarray(0, Math.min(LOOKED, bytes.length & ~1))
  const pairs = head.length / 2
  let [even, odd] = [0, 0]
  for (let i = 0; i < head.length; i += 2) {
    if (head[i] === 0) even++
    if (head[i + 1] === 0) odd++
  }
  if (pairs < 8) return null
  if (odd > MOSTLY * pairs && even === 0) return 'utf-16le'
  return even > MOSTLY * pairs && odd === 0 ? 'utf-16be' : null
}

const UTF8 = new TextDecoder('utf-8', { fatal: true })
const LATIN = new TextDecoder('windows-1252')

/** Bytes to text: UTF-8 with or without byte order mark; windows-1252 where they are not valid UTF-8. */
export function decodeText(bytes: Uint8Array): string {
  try {
    return UTF8.decode(bytes)
  } catch {
    return LATIN.decode(bytes)
  }
}

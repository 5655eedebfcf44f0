import { HypometError, isHypometError } from '@hypomet/core'

/** What a store says of itself, by its own codes. */
const SENTENCES = {
  SQLITE_BUSY: ['store-locked', 'The database is locked by another program. Nothing was saved; try again.'],
  SQLITE_LOCKED: ['store-locked', 'The database is locked by another program. Nothing was saved; try again.'],
  SQLITE_FULL: ['store-full', 'The disk is full. Nothing was saved; make room and try again.'],
  SQLITE_READONLY: ['store-read-only', 'The database or its folder cannot be written to. Nothing was saved.'],
  SQLITE_CANTOPEN: ['store-read-only', 'The database cannot be opened, or its folder cannot be written to.'],
  SQLITE_CORRUPT: [
    'store-damaged',
    'A page of the database cannot be read. What is whole can be looked at; nothing is saved until the newest backup ' +
      'has been restored.',
  ],
  SQLITE_NOTADB: ['store-damaged', 'The file is no database, or its first page is damaged.'],
  ENOSPC: ['store-full', 'The disk is full. Nothing was saved; make room and try again.'],
  EDQUOT: ['store-full', 'The disk is full. Nothing was saved; make room and try again.'],
  EROFS: ['store-read-only', 'The folder of the database cannot be written to. Nothing was saved.'],
  EACCES: ['store-read-only', 'The folder of the database cannot be written to. Nothing was saved.'],
} as const

type Said = keyof typeof SENTENCES

/** The store's own code, however deep it is wrapped: `SQLITE_CORRUPT_INDEX` is `SQLITE_CORRUPT`. */
export function storeCode(e: unknown): Said | null {
  for (let at = e, depth = 0; at instanceof Error && depth < 8; at = at.cause, depth++) {
    const { code } = at as { code?: unknown }
    if (typeof code !== 'string') continue
    const known = Object.keys(SENTENCES).find(k => code === k || code.startsWith(`${k}_`))
    if (known) return known as Said
  }
  return null
}

/** What went wrong with the store, as an error of the house; null for anything else. */
export function storeTrouble(e: unknown): HypometError | null {
  if (isHypometError(e)) return null
  const code = storeCode(e)
  if (!code) return null
  const [known, sentence] = SENTENCES[code]
  return new HypometError(known, sentence)
}

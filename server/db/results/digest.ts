import { createHash } from 'node:crypto'

/** Digest of a result: the same digits in the same order give the same. */
export const digestOf = (output: unknown): string => createHash('sha256').update(JSON.stringify(output)).digest('hex')

import { createHash, randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, open, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { HypometError } from '@hypomet/core'
import { notFound } from './notFound'

/** A size in whole GB or MB. */
const sizeWords = (bytes: number): string =>
  bytes >= 1024 ** 3 ? `${Math.round(bytes / 1024 ** 3)} GB` : `${Math.round(bytes / 1024 ** 2)} MB`

/** Imported files as they came, addressed by SHA-256, in a folder beside the database. They never change. */
export class Originals {
  constructor(private readonly folder: string) {}

  path(sha256: string): string {
    if (!/^[0-9a-f]{64}$/.test(sha256)) throw notFound('file', sha256)
    return join(this.folder, sha256.slice(0, 2), sha256)
  }

  /** Keeps the bytes; the same bytes twice are one file. */
  async keep(bytes: Uint8Array): Promise<string> {
    const sha256 = createHash('sha256').update(bytes).digest('hex')
    const path = this.path(sha256)
    if (!existsSync(path)) {
      await mkdir(dirname(path), { recursive: true })
      await writeFile(path + '.part', bytes)
      await rename(path + '.part', path)
    }
    return sha256
  }

  /** Keeps a stream without holding it in memory. @throws HypometError `too-large` */
  async keepStream(parts: AsyncIterable<Uint8Array>, most: number): Promise<{ sha256: string; size: number }> {
    await mkdir(this.folder, { recursive: true })
    const part = join(this.folder, `${randomUUID()}.part`)
    const file = await open(part, 'wx')
    const hash = createHash('sha256')
    let size = 0
    try {
      for await (const bytes of parts) {
        size += bytes.length
        if (size > most) throw new HypometError('too-large', `Files of up to ${sizeWords(most)} are taken.`)
        hash.update(bytes)
        await file.write(bytes)
      }
      await file.sync()
    } catch (e) {
      await file.close()
      await rm(part, { force: true })
      throw e
    }
    await file.close()
    const sha256 = hash.digest('hex')
    const path = this.path(sha256)
    if (existsSync(path)) await rm(part)
    else {
      await mkdir(dirname(path), { recursive: true })
      await rename(part, path)
    }
    return { sha256, size }
  }

  async read(sha256: string): Promise<Uint8Array> {
    const path = this.path(sha256)
    if (!existsSync(path))
      throw new HypometError(
        'original-missing',
        `The original ${sha256.slice(0, 12)}… is not in the folder of originals.`,
      )
    return readFile(path)
  }
}

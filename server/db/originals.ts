import { createHash } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, readFile, rename, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { notFound } from './notFound'

/** Imported files as they came, addressed by SHA-256, in a folder beside the database. They never change. */
export class Originals {
  constructor(private readonly folder: string) {}

  private path(sha256: string): string {
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

  async read(sha256: string): Promise<Uint8Array> {
    const path = this.path(sha256)
    if (!existsSync(path)) throw notFound('file', sha256)
    return readFile(path)
  }
}

import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { mkdtemp, readdir, rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { pack } from 'tar-stream'
import type { AuditHead } from './auditHead'

/** What a backup holds, with the digest of each part; its first member. */
export interface BackupManifest {
  format: 1
  software: string
  at: string
  database: { name: 'hypomet.db'; sha256: string; size: number }
  originals: { sha256: string; size: number }[]
  head: AuditHead | null
}

const MANIFEST = 'manifest.json'

interface BackupOf {
  /** Folder of the originals. */
  originals: string
  software: string
  head: AuditHead | null
  /** Copies the database as it is now; on a thread where nobody waits. */
  copyInto(path: string): Promise<unknown>
}

/**
 * A backup while everything goes on: the database as it is at one moment, its originals, and what they are, as one tar.
 *
 * @param url  of the database file
 * @returns  the archive; read to its end, it takes the copy away again
 * @throws HypometError `store-full`, `store-read-only`
 */
export async function backupOf(
  url: string,
  { originals, software, head, copyInto }: BackupOf,
): Promise<{ manifest: BackupManifest; archive: Readable }> {
  const path = url.slice('file:'.length)
  // Beside the database: the disk that holds it has room for it, or says so.
  const folder = await mkdtemp(join(dirname(path), '.backup-'))
  const copy = join(folder, 'hypomet.db')
  const gone = () => rm(folder, { recursive: true, force: true })
  try {
    await copyInto(copy)
    const kept = await originalsIn(originals)
    const manifest: BackupManifest = {
      format: 1,
      software,
      at: new Date().toISOString(),
      database: { name: 'hypomet.db', sha256: await digestOf(copy), size: (await stat(copy)).size },
      originals: kept,
      head,
    }
    const archive = pack()
    void filled(archive, manifest, { copy, originals })
      .catch((e: unknown) => archive.destroy(e as Error))
      .finally(() => void gone())
    return { manifest, archive: archive as unknown as Readable }
  } catch (e) {
    await gone()
    throw e
  }
}

async function filled(
  archive: ReturnType<typeof pack>,
  manifest: BackupManifest,
  { copy, originals }: { copy: string; originals: string },
): Promise<void> {
  archive.entry({ name: MANIFEST }, JSON.stringify(manifest, null, 2))
  await member(archive, manifest.database.name, copy, manifest.database.size)
  for (const { sha256, size } of manifest.originals)
    await member(
      archive,
      `originals/${sha256.slice(0, 2)}/${sha256}`,
      join(originals, sha256.slice(0, 2), sha256),
      size,
    )
  archive.finalize()
}

const member = (archive: ReturnType<typeof pack>, name: string, path: string, size: number): Promise<void> =>
  pipeline(createReadStream(path, { highWaterMark: 1 << 20 }), archive.entry({ name, size }))

async function originalsIn(folder: string): Promise<{ sha256: string; size: number }[]> {
  const names = await readdir(folder, { recursive: true }).catch(() => [])
  const kept = names.filter(name => /(^|[\\/])[0-9a-f]{64}$/.test(name))
  return Promise.all(kept.map(async name => ({ sha256: name.slice(-64), size: (await stat(join(folder, name))).size })))
}

async function digestOf(path: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const piece of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(piece as Buffer)
  return hash.digest('hex')
}

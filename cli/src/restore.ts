import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream, existsSync } from 'node:fs'
import { mkdir, readdir, rename, rm } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { HypometError } from '@hypomet/core'
import { extract } from 'tar-stream'

interface Manifest {
  format: number
  at: string
  database: { name: string; sha256: string; size: number }
  originals: { sha256: string; size: number }[]
}

const MOST_MANIFEST = 64 * 1024 ** 2
const MEMBER = /^(hypomet\.db|originals\/[0-9a-f]{2}\/[0-9a-f]{64})$/

/**
 * Puts a backup into a folder of its own: every part is held against its digest, and nothing is there before all are.
 *
 * @throws HypometError `backup-broken`, `not-found`, `taken` where the folder holds something
 */
export async function restore(file: string, folder: string): Promise<{ at: string; originals: number; size: number }> {
  if (!existsSync(file)) throw new HypometError('not-found', `There is no file ${file}.`)
  if (existsSync(folder) && (await readdir(folder)).length > 0)
    throw new HypometError('taken', `${folder} is not empty: a backup is restored into a folder of its own.`)
  const coming = `${folder.replace(/[\\/]+$/, '')}.restoring`
  await rm(coming, { recursive: true, force: true })
  try {
    const found = await unpacked(file, coming)
    await rm(folder, { recursive: true, force: true })
    await rename(coming, folder)
    return found
  } catch (e) {
    await rm(coming, { recursive: true, force: true })
    throw e instanceof HypometError ? e : broken(`it cannot be read to its end (${(e as Error).message})`)
  }
}

const broken = (why: string): HypometError => new HypometError('backup-broken', `This backup is not whole: ${why}.`)

async function unpacked(file: string, folder: string): Promise<{ at: string; originals: number; size: number }> {
  let manifest: Manifest | null = null
  const seen = new Map<string, string>()
  const tar = extract()
  const work = (async () => {
    for await (const entry of tar) {
      const { name, size = 0 } = entry.header
      if (manifest === null) {
        if (name !== 'manifest.json' || size > MOST_MANIFEST) throw broken('it does not begin with what it holds')
        manifest = manifestOf(await text(entry))
        continue
      }
      if (!MEMBER.test(name)) throw broken(`“${name.slice(0, 80)}” has no place in it`)
      const path = join(folder, name)
      await mkdir(dirname(path), { recursive: true })
      const hash = createHash('sha256')
      const through = new Transform({
        transform(piece: Buffer, _, done) {
          hash.update(piece)
          done(null, piece)
        },
      })
      await pipeline(entry, through, createWriteStream(path))
      seen.set(name, hash.digest('hex'))
    }
  })()
  await Promise.all([pipeline(createReadStream(file, { highWaterMark: 1 << 20 }), tar), work])
  const said = manifest as Manifest | null
  if (!said) throw broken('it is empty')
  const wanted = [
    [said.database.name, said.database.sha256] as const,
    ...said.originals.map(o => [`originals/${o.sha256.slice(0, 2)}/${o.sha256}`, o.sha256] as const),
  ]
  for (const [name, sha256] of wanted) {
    if (!seen.has(name)) throw broken(`${name} is missing`)
    if (seen.get(name) !== sha256) throw broken(`${name} is not as it was written down`)
  }
  return { at: said.at, originals: said.originals.length, size: said.database.size }
}

async function text(entry: AsyncIterable<unknown>): Promise<string> {
  const pieces: Buffer[] = []
  for await (const piece of entry) pieces.push(piece as Buffer)
  return Buffer.concat(pieces).toString('utf8')
}

function manifestOf(json: string): Manifest {
  try {
    const m = JSON.parse(json) as Manifest
    if (m.format === 1 && typeof m.database.sha256 === 'string' && Array.isArray(m.originals)) return m
  } catch {
    throw broken('what it holds is not written down in it')
  }
  throw broken('it is of a form that this program does not know')
}

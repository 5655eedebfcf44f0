import { existsSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { Database } from '../db/connection/client'
import {
  copyBefore,
  copyTo,
  lookAt,
  missingOriginals,
  sweepParts,
  type MissingOriginal,
} from '../db/connection/condition'
import { migrate, type MigrationSource } from '../db/connection/migrate'
import { takeLease, type Lease } from '../db/connection/lease'
import { takeDatabase, type Ownership } from '../db/connection/ownership'
import { Originals } from '../db/connection/originals'
import { discard } from '../db/records/importing'
import { backupSchedule } from '../environment'
import { ChildWorker, type LaneWorker } from '../jobs/childWorker'
import { goOn } from '../jobs/imports'
import { Proofs } from '../jobs/proofs'
import { JobRunner, type LaneName } from '../jobs/runner'
import { isBehindFront, rigsOfFront } from '../front/behindFront'
import type { Rigs } from '../live/rigs'
import { RunManager } from '../live/runManager'
import { ThreadRecorder } from '../live/threadRecorder'

export interface Services {
  database: Database
  originals: Originals
  jobs: JobRunner
  runs: RunManager<Rigs>
  /** Null where the front has the runs. */
  recorder: ThreadRecorder | null
  /** Null where the front has taken the database. */
  ownership: Ownership | null
  /** Of a database on a server of its own. */
  lease: Lease | null
  /** Originals that were not there at the start. */
  missing: MissingOriginal[]
  proofs: Proofs
}

const MOST_NAMED = 10
const GIGABYTE = 1024 ** 3
/** What work on files may have in memory: all of it, and the heap in it. */
const MEMORY = {
  long: { mostBytes: 1.5 * GIGABYTE, heapMb: 640 },
  look: { mostBytes: GIGABYTE, heapMb: 768 },
}

let services: Services | undefined

/** Whatever is written from here on would be written beside another's. */
function endNow(why: string): void {
  console.error(why)
  process.exit(1)
}

export function useServices(): Services {
  if (!services) throw new Error('the database is not open yet')
  return services
}

/** Opens the database, brings it up to date, and takes away what an earlier process left half done. */
export async function openServices(url: string): Promise<number> {
  const path = url.startsWith('file:') ? resolve(url.slice('file:'.length)) : null
  const ownership = isBehindFront() ? null : takeDatabase(url)
  const database = await Database.open(url)
  const lease = path === null && !url.includes(':memory:') ? await takeLease(database.client, { lost: endNow }) : null
  const assets = useStorage('assets:migrations')
  const asText = (raw: Uint8Array | string | null) =>
    typeof raw === 'string' ? raw : Buffer.from(raw ?? []).toString('utf8')
  const source: MigrationSource = {
    journal: async () =>
      JSON.parse(asText(await assets.getItemRaw<Uint8Array | string>('meta/_journal.json'))) as {
        entries: { tag: string; when: number }[]
      },
    sql: async tag => asText(await assets.getItemRaw<Uint8Array | string>(`${tag}.sql`)),
  }
  const found = await lookAt(database.client, source, { path, isFull: process.env['HYPOMET_CHECK'] === 'full' })
  if (path && found.schema > 0 && found.schema < found.known) {
    const copy = copyBefore(path, found)
    if (!existsSync(copy)) await copyTo(database.client, copy)
    console.log(`The database gets a new form; as it was it is kept in ${copy}.`)
  }
  const applied = await migrate(database.client, source)
  const originalsFolder = join(path ? dirname(path) : resolve('data'), 'originals')
  const data = { url, originalsFolder }
  const entry = new URL('./workers/jobs.mjs', import.meta.url)
  // Samples lie outside the heap; a small one keeps an import of any length small.
  const spawn = (lane: LaneName): LaneWorker =>
    lane === 'quick'
      ? new Worker(entry, { workerData: data, resourceLimits: { maxOldGenerationSizeMb: 2048 } })
      : new ChildWorker(fileURLToPath(entry), data, MEMORY[lane])
  const recorder = isBehindFront()
    ? null
    : new ThreadRecorder(() => new Worker(new URL('./workers/recorder.mjs', import.meta.url), { workerData: { url } }))
  const jobs = new JobRunner(database, spawn)
  const front = recorder ? null : rigsOfFront(() => runs.told)
  const runs: RunManager<Rigs> = new RunManager<Rigs>(database, recorder ?? front!, datasetId =>
    jobs.call('planned', { datasetId }),
  )
  const originals = new Originals(originalsFolder)
  await sweepParts(originalsFolder)
  const missing = await missingOriginals(database.client, sha256 => originals.path(sha256))
  for (const { sha256, name } of missing.slice(0, MOST_NAMED))
    console.warn(`The original of ${name} (${sha256.slice(0, 12)}…) is not in ${originalsFolder}.`)
  if (missing.length > MOST_NAMED) console.warn(`and of ${missing.length - MOST_NAMED} more.`)
  const proofs = new Proofs({ database, jobs, path, originals: originalsFolder, missing, schedule: backupSchedule() })
  services = {
    database,
    originals,
    ownership,
    lease,
    missing,
    proofs,
    jobs,
    runs,
    recorder,
  }
  await goOn(services, id => database.write(db => discard(db, id)))
  await services.runs.sweep()
  await proofs.begin()
  await front?.opened()
  return applied
}

export async function closeServices(): Promise<void> {
  const open = services
  services = undefined
  await open?.runs.stopAll()
  await open?.recorder?.stop()
  await open?.proofs.stop()
  await open?.jobs.close()
  await open?.lease?.release().catch(() => undefined)
  await open?.database.settle().catch(() => undefined)
  open?.database.close()
  open?.ownership?.release()
}

import { dirname, join, resolve } from 'node:path'
import { Worker } from 'node:worker_threads'
import { Database } from '../db/connection/client'
import { migrate } from '../db/connection/migrate'
import { Originals } from '../db/connection/originals'
import { discard } from '../db/records/importing'
import { goOn } from '../jobs/imports'
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
}

let services: Services | undefined

export function useServices(): Services {
  if (!services) throw new Error('the database is not open yet')
  return services
}

/** Opens the database, brings it up to date, and takes away what an earlier process left half done. */
export async function openServices(url: string): Promise<number> {
  const database = await Database.open(url)
  const assets = useStorage('assets:migrations')
  const asText = (raw: Uint8Array | string | null) =>
    typeof raw === 'string' ? raw : Buffer.from(raw ?? []).toString('utf8')
  const applied = await migrate(database.client, {
    journal: async () =>
      JSON.parse(asText(await assets.getItemRaw<Uint8Array | string>('meta/_journal.json'))) as {
        entries: { tag: string; when: number }[]
      },
    sql: async tag => asText(await assets.getItemRaw<Uint8Array | string>(`${tag}.sql`)),
  })
  const originalsFolder = join(
    url.startsWith('file:') ? dirname(resolve(url.slice('file:'.length))) : resolve('data'),
    'originals',
  )
  // Samples lie outside the heap; a small one keeps an import of any length small.
  const spawn = (lane: LaneName) =>
    new Worker(new URL('./workers/jobs.mjs', import.meta.url), {
      workerData: { url, originalsFolder },
      resourceLimits: { maxOldGenerationSizeMb: lane === 'long' ? 384 : 2048 },
    })
  const recorder = isBehindFront()
    ? null
    : new ThreadRecorder(() => new Worker(new URL('./workers/recorder.mjs', import.meta.url), { workerData: { url } }))
  const jobs = new JobRunner(database, spawn)
  const runs: RunManager<Rigs> = new RunManager<Rigs>(database, recorder ?? rigsOfFront(() => runs.told), datasetId =>
    jobs.call('planned', { datasetId }),
  )
  services = {
    database,
    originals: new Originals(originalsFolder),
    jobs,
    runs,
    recorder,
  }
  await goOn(services, id => database.write(db => discard(db, id)))
  await services.runs.sweep()
  return applied
}

export async function closeServices(): Promise<void> {
  const open = services
  services = undefined
  await open?.runs.stopAll()
  await open?.recorder?.stop()
  await open?.jobs.close()
  open?.database.close()
}

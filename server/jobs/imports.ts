import { finishImport, unfinishedImports, type NewImport } from '../db/records/datasets'
import type { Database } from '../db/connection/client'
import { datasetExists } from '../db/records/importing'
import { finishReread } from '../db/records/reread'
import { takeAnew } from './anew'
import { startHealth } from './startHealth'
import type { ImportPayload } from './handlers'
import type { JobRunner } from './runner'

interface Services {
  database: Database
  jobs: JobRunner
}

/** Imports a file as a job; when it is in, it counts as the test's run, and its channels are looked over. */
export function startImport(services: Services, payload: ImportPayload, known?: number): Promise<number> {
  const then = () => follow(services, payload)
  return services.jobs.start('import', payload, { then, ...(known === undefined ? {} : { known }) })
}

/** What follows once a file is in. Done a second time, it finds what is there already. */
async function follow(services: Services, payload: ImportPayload) {
  if (payload.replaces) return readAgain(services, payload, payload.replaces)
  const end = { end: payload.end as NewImport['end'], broke: payload.broke }
  const done = await finishImport(services.database, payload.by, payload.testId, payload.datasetId, end)
  await services.jobs.call('planned', { datasetId: payload.datasetId })
  return { ...done, healthJobId: await startHealth(services, payload.datasetId, {}) }
}

/** A file that was read again takes the place of what was read before; what rests on it follows. */
async function readAgain(services: Services, { by, datasetId }: ImportPayload, replaces: number) {
  if (await datasetExists(services.database.read, datasetId)) await finishReread(services.database, replaces, datasetId)
  return { datasetId: replaces, ...(await takeAnew(services, by, replaces)) }
}

/** What an earlier process left: imports go on, and what follows them is done; the rest is given up. */
export async function goOn(services: Services, discard: (datasetId: number) => Promise<unknown>): Promise<void> {
  const { database, jobs } = services
  const left = await jobs.leftBehind()
  const half = new Set(await unfinishedImports(database.read))
  const ofImport = left.filter(j => j.kind === 'import')
  const imports = ofImport.filter(j => half.has((j.payload as ImportPayload).datasetId))
  // Of those that are in, what follows may not have been done.
  const isIn = await Promise.all(
    ofImport.map(async ({ payload }) => {
      const { datasetId, replaces } = payload as ImportPayload
      return !half.has(datasetId) && (await datasetExists(database.read, replaces ?? datasetId))
    }),
  )
  const whole = ofImport.filter((_, i) => isIn[i])
  await jobs.giveUp(left.filter(j => !imports.includes(j) && !whole.includes(j)).map(j => j.id))
  for (const datasetId of half)
    if (!imports.some(j => (j.payload as ImportPayload).datasetId === datasetId)) await discard(datasetId)
  for (const j of imports) await startImport(services, j.payload as ImportPayload, j.id)
  for (const j of whole) jobs.settle(j.id, 'import', () => follow(services, j.payload as ImportPayload))
  // Health that was not finished begins again.
  for (const j of left.filter(j => j.kind === 'health')) {
    const { datasetId } = j.payload as { datasetId: number }
    if (await datasetExists(database.read, datasetId)) await startHealth(services, datasetId, {})
  }
}

import type { Database } from '../db/connection/client'
import { notFound } from '../db/connection/notFound'
import { datasetExists } from '../db/records/importing'
import { fullScales } from '../db/registers/inventory'
import type { JobRunner } from './runner'

/** Looks over a record's channels, as a job. @throws HypometError `not-found` */
export async function startHealth(
  { database, jobs }: { database: Database; jobs: Pick<JobRunner, 'start'> },
  datasetId: number,
  options: { gapShare?: number; flatSamples?: number; hampelSigma?: number },
): Promise<number> {
  if (!(await datasetExists(database.read, datasetId))) throw notFound('record', datasetId)
  return jobs.start('health', { datasetId, options, fullScale: await fullScales(database.read, datasetId) })
}

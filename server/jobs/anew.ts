import { isHypometError, toRefusal, type Refusal } from '@hypomet/core'
import { forgetChannels } from '../db/records/chunkIndex'
import { mainRecord, recordsTogether } from '../db/records/clocks'
import { keptOf } from '../db/results/reductions'
import type { Database } from '../db/connection/client'
import { keepReduction } from './keepReduction'
import type { JobRunner } from './runner'
import { startHealth } from './startHealth'

interface Services {
  database: Database
  jobs: Pick<JobRunner, 'call' | 'start'>
}

/** What became of a test's kept result: taken anew, left as it was for a reason, or there was none. */
export interface TakenAnew {
  reductionId: number | null
  refused: Refusal | null
}

/**
 * Works out anew what rests on a record of which something was said otherwise: channels derived from it, what is
 * wrong with them, and the kept result, which the new one supersedes.
 */
export async function takeAnew(
  services: Services,
  by: string,
  datasetId: number,
  { isMoved = false } = {},
): Promise<TakenAnew> {
  const { database, jobs } = services
  forgetChannels(database.read, await jobs.call('rederive', { datasetId }))
  const [main] = await recordsTogether(database.read, datasetId)
  // A clock that is set changes nothing of a channel by itself.
  if (isMoved) await jobs.call('pairs', { datasetId })
  else await startHealth(services, datasetId, {})
  return supersede(services, by, main!.testId)
}

/** Keeps a test's result once more with its settings, where it is one of its newest record. */
export async function supersede(services: Services, by: string, testId: number): Promise<TakenAnew> {
  const { read } = services.database
  const [kept, main] = [await keptOf(read, testId), await mainRecord(read, testId)]
  if (!kept || kept.datasetId !== main?.id) return { reductionId: null, refused: null }
  try {
    const { id } = await keepReduction(services, by, testId, kept.settings)
    return { reductionId: id, refused: null }
  } catch (e) {
    // With these settings there is no result any more: the page of the reduction says why.
    if (isHypometError(e)) return { reductionId: null, refused: toRefusal(e) }
    throw e
  }
}

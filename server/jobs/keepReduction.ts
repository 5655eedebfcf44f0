import { families } from '@hypomet/core'
import type { Database } from '../db/connection/client'
import { keptSettings, reductionInput, storeReduction } from '../db/results/reductions'
import type { JobKind, PayloadOf, ResultOf } from './handlers'

interface Services {
  database: Database
  jobs: { call<K extends JobKind>(kind: K, payload: PayloadOf<K>): Promise<ResultOf<K>> }
}

/** Reduces a test's record with these settings, or with proposed ones, and keeps what comes out. */
export async function keepReduction(
  { database, jobs }: Services,
  by: string,
  testId: number,
  settings: Record<string, unknown> | null,
  looked: string[] = [],
) {
  const { sha256, inputs, ...payload } = await reductionInput(database.read, testId, settings)
  const reduced = await jobs.call('reduce', payload)
  return storeReduction(database, by, testId, { ...payload, sha256, inputs }, reduced, looked)
}

/**
 * The same with the settings of a twin: what is of one record alone stays as this test's were kept, or is proposed
 * anew.
 */
export async function keepLikeTwin(services: Services, by: string, testId: number, settings: Record<string, unknown>) {
  const { database, jobs } = services
  const { sha256: _, inputs: __, ...payload } = await reductionInput(database.read, testId, null)
  const own = (await keptSettings(database.read, testId)) ?? (await jobs.call('propose', payload))
  const isOwn = (key: string) => families[payload.family]!.ownOfRecord.includes(key)
  const only = (from: Record<string, unknown>, wanted: boolean) =>
    Object.entries(from).filter(([key]) => isOwn(key) === wanted)
  return keepReduction(services, by, testId, Object.fromEntries([...only(settings, false), ...only(own, true)]))
}

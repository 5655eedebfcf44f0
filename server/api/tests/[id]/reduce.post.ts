import * as z from 'zod'
import { reductionInput, storeReduction } from '../../../db/reductions'

/** `settings: null` asks for a proposal; without `keep` nothing is stored. */
const body = z.object({ settings: z.record(z.string(), z.unknown()).nullable(), keep: z.boolean().default(false) })

export default defineRoute(async event => {
  const { database, jobs } = useServices()
  const testId = idOf(event)
  const { settings, keep } = await bodyOf(event, body)
  const { sha256, inputs, ...payload } = await reductionInput(database.read, testId, settings)
  const reduced = await jobs.call('reduce', payload)
  if (!keep) return { ...reduced, id: null }
  const { id } = await storeReduction(database, personOf(event), testId, { ...payload, sha256, inputs }, reduced)
  return { ...reduced, id }
})

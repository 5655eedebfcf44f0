import * as z from 'zod'
import { reductionInput } from '../../../db/results/reductions'
import { keepReduction } from '../../../jobs/keepReduction'

/** Reduces the record; kept when asked. */
export default defineRoute(
  { body: z.object({ settings: z.record(z.string(), z.unknown()).nullable(), keep: z.boolean().default(false) }) },
  async (event, { body }) => {
    const services = useServices()
    const testId = idOf(event)
    const { settings, keep } = body
    if (keep) return keepReduction(services, personOf(event), testId, settings)
    const { sha256: _, inputs: __, ...payload } = await reductionInput(services.database.read, testId, settings)
    return { ...(await services.jobs.call('reduce', payload)), id: null }
  },
)

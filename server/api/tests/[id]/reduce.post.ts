import * as z from 'zod'
import { reductionInput } from '../../../db/results/reductions'
import { keepReduction } from '../../../jobs/keepReduction'

/** Reduces the record; kept when asked. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      settings: z.record(z.string(), z.unknown()).nullable(),
      keep: z.boolean().default(false),
      /** Checks that failed and that somebody says to have looked at. */
      looked: z.array(z.string().max(300)).max(50).default([]),
    }),
  },
  async (event, { body }) => {
    const services = useServices()
    const testId = idOf(event)
    const { settings, keep, looked } = body
    if (keep) return keepReduction(services, personOf(event), testId, settings, looked)
    const { sha256: _, inputs: __, ...payload } = await reductionInput(services.database.read, testId, settings)
    return { ...(await services.jobs.call('reduce', payload)), id: null }
  },
)

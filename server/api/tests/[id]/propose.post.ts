import * as z from 'zod'
import { reductionInput } from '../../../db/results/reductions'

/** Settings to begin a reduction with, where the record stays on the server; for a piece of it, where one is named. */
export default defineRoute(
  { isRows: true, body: z.object({ piece: z.unknown().optional() }) },
  async (event, { body: { piece } }) => {
    const { database, jobs } = useServices()
    const { sha256: _, inputs: __, ...payload } = await reductionInput(database.read, idOf(event), { piece })
    return { settings: await jobs.call('propose', payload) }
  },
)

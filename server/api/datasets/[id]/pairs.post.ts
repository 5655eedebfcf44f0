import * as z from 'zod'
import { addPair } from '../../../db/records/records'

/** Two channels that ought to agree; they are looked at at once. */
export default defineRoute(
  { body: z.object({ a: z.number().int(), b: z.number().int(), tolerance: z.number().positive().nullable() }) },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const pair = await addPair(database, personOf(event), idOf(event), body)
    return { pair, ...(await jobs.call('pairs', { datasetId: idOf(event) })) }
  },
)

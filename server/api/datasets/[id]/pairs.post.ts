import * as z from 'zod'
import { addPair } from '../../../db/records/records'

const body = z.object({ a: z.number().int(), b: z.number().int(), tolerance: z.number().positive().nullable() })

/** Two channels that ought to agree; they are looked at at once. */
export default defineRoute(async event => {
  const { database, jobs } = useServices()
  const pair = await addPair(database, personOf(event), idOf(event), await bodyOf(event, body))
  return { pair, ...(await jobs.call('pairs', { datasetId: idOf(event) })) }
})

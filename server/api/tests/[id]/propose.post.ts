import { reductionInput } from '../../../db/results/reductions'

/** Settings to begin a reduction with, where the record stays on the server. */
export default defineRoute(async event => {
  const { database, jobs } = useServices()
  const { sha256: _, inputs: __, ...payload } = await reductionInput(database.read, idOf(event), null)
  return { settings: await jobs.call('propose', payload) }
})

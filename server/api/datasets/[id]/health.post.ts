import { healthPayload } from '../../../jobs/handlers'
import { startHealth } from '../../../jobs/startHealth'

/** Looks over all channels again, with other thresholds. */
export default defineRoute({ body: healthPayload.shape.options }, async (event, { body }) => {
  const { database, jobs } = useServices()
  return { jobId: await startHealth({ database, jobs }, idOf(event), body) }
})

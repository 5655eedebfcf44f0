import { healthPayload } from '../../../jobs/handlers'
import { startHealth } from '../../../jobs/imports'

/** Looks over all channels again, with other thresholds. */
export default defineRoute(async event => {
  const { database, jobs } = useServices()
  return { jobId: await startHealth({ database, jobs }, idOf(event), await bodyOf(event, healthPayload.shape.options)) }
})

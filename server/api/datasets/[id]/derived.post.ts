import * as z from 'zod'
import { derivePayload } from '../../../jobs/derive'

/** A derived channel, drawn at once; with a name it is kept. */
export default defineRoute(
  { body: derivePayload.omit({ datasetId: true, keep: true }).extend({ name: z.string().trim().max(80).nullable() }) },
  (event, { body }) => {
    const { name, ...asked } = body
    return useServices().jobs.call('derive', {
      ...asked,
      datasetId: idOf(event),
      keep: name === null ? null : { name, by: personOf(event) },
    })
  },
)

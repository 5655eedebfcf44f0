import * as z from 'zod'
import { derivePayload } from '../../../jobs/derive'

const body = derivePayload.omit({ datasetId: true, keep: true }).extend({ name: z.string().trim().max(80).nullable() })

/** A derived channel, drawn at once; with a name it is kept. */
export default defineRoute(async event => {
  const { name, ...asked } = await bodyOf(event, body)
  return useServices().jobs.call('derive', {
    ...asked,
    datasetId: idOf(event),
    keep: name === null ? null : { name, by: personOf(event) },
  })
})

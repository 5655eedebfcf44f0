import { alignPayload } from '../../../jobs/together'

/** How a clock must be set so that two channels agree; sets nothing. */
export default defineRoute({ body: alignPayload.omit({ datasetId: true }) }, (event, { body }) =>
  useServices().jobs.call('align', {
    ...body,
    datasetId: idOf(event),
  }),
)

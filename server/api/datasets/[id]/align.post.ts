import { alignPayload } from '../../../jobs/together'

/** How a clock must be set so that two channels agree; sets nothing. */
export default defineRoute(async event =>
  useServices().jobs.call('align', {
    ...(await bodyOf(event, alignPayload.omit({ datasetId: true }))),
    datasetId: idOf(event),
  }),
)

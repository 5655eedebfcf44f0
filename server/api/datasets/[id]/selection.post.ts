import { selectionPayload } from '../../../jobs/selection'

/** Statistics, and spectra where asked, of a stretch of time. */
export default defineRoute({ body: selectionPayload.omit({ datasetId: true }) }, (event, { body }) => {
  return useServices().jobs.call('selection', { ...body, datasetId: idOf(event) })
})

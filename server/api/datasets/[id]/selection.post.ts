import { selectionPayload } from '../../../jobs/selection'

/** Statistics, and spectra where asked, of a stretch of time. */
export default defineRoute(async event => {
  const { jobs } = useServices()
  return jobs.call(
    'selection',
    await bodyOf(event, selectionPayload.omit({ datasetId: true })).then(body => ({ ...body, datasetId: idOf(event) })),
  )
})

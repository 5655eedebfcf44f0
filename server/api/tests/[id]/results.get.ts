import * as z from 'zod'
import { resultsCsv, resultsJson } from '../../../reports/results'

const query = z.object({ format: z.enum(['csv', 'json']) })

/** Results of the newest reduction in SI, with their provenance. */
export default defineRoute(async event => {
  const { format } = query.parse(getQuery(event))
  const { database } = useServices()
  const id = idOf(event)
  setResponseHeader(event, 'content-disposition', `attachment; filename="test-${id}-results.${format}"`)
  setResponseHeader(
    event,
    'content-type',
    format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json; charset=utf-8',
  )
  return format === 'csv' ? resultsCsv(database, id) : resultsJson(database, id)
})

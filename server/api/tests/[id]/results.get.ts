import * as z from 'zod'
import { HEAD_HEADER } from '../../../db/connection/auditHead'
import { resultsCsv, resultsJson } from '../../../reports/results'

/** Results of the newest reduction in SI, with their provenance. */
export default defineRoute(
  { query: z.object({ format: z.enum(['csv', 'json']) }) },
  async (event, { query }): Promise<unknown> => {
    const { format } = query
    const { database, proofs } = useServices()
    const head = await proofs.head()
    setResponseHeader(event, HEAD_HEADER, JSON.stringify(head))
    const id = idOf(event)
    setResponseHeader(event, 'content-disposition', `attachment; filename="test-${id}-results.${format}"`)
    setResponseHeader(
      event,
      'content-type',
      format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json; charset=utf-8',
    )
    return format === 'csv' ? resultsCsv(database, id) : resultsJson(database, id, head)
  },
)

import * as z from 'zod'
import { HEAD_HEADER } from '../../../db/connection/auditHead'
import { registerFile } from '../../../reports/registers'

/** A register as CSV or JSON. */
export default defineRoute(
  { query: z.object({ format: z.enum(['csv', 'json']).default('csv'), campaignId: optionalId }) },
  async (event, { query }) => {
    const { format, campaignId } = query
    const register = registerOf(event)
    setResponseHeader(
      event,
      'content-type',
      format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json; charset=utf-8',
    )
    setResponseHeader(event, 'content-disposition', `attachment; filename="${register}.${format}"`)
    const { database, proofs } = useServices()
    const head = await proofs.head()
    setResponseHeader(event, HEAD_HEADER, JSON.stringify(head))
    return registerFile(database.read, register, campaignId, format, head)
  },
)

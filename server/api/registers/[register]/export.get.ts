import * as z from 'zod'
import { registerFile } from '../../../reports/registers'

const query = z.object({ format: z.enum(['csv', 'json']).default('csv') })

export default defineRoute(async event => {
  const { format } = query.parse(getQuery(event))
  const register = registerOf(event)
  setResponseHeader(
    event,
    'content-type',
    format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json; charset=utf-8',
  )
  setResponseHeader(event, 'content-disposition', `attachment; filename="${register}.${format}"`)
  return registerFile(useServices().database.read, register, campaignIdOf(event), format)
})

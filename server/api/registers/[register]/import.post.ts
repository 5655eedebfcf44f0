import * as z from 'zod'
import { importRows } from '../../../reports/registers'

const body = z.object({
  campaignId: z.number().int().nullable().default(null),
  text: z.string().max(25 * 1024 ** 2),
  format: z.enum(['csv', 'json']),
})

export default defineRoute(async event =>
  importRows(useServices().database, personOf(event), registerOf(event), await bodyOf(event, body)),
)

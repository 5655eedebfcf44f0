import * as z from 'zod'
import { importRows } from '../../../reports/registers'

/** Reads rows of a register from CSV or JSON: all of them or none. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      campaignId: z.number().int().nullable().default(null),
      text: z.string().max(25 * 1024 ** 2),
      format: z.enum(['csv', 'json']),
    }),
  },
  (event, { body }) => importRows(useServices().database, personOf(event), registerOf(event), body),
)

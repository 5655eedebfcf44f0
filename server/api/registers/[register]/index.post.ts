import * as z from 'zod'
import { writeRows } from '../../../db/registers/service'

const values = z.record(z.string(), z.unknown())
const place = { id: z.number().int(), version: z.number().int() }
/** Makes, changes and removes rows: all of it or nothing. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({
      campaignId: z.number().int().nullable().default(null),
      creates: z.array(values).max(5000).default([]),
      changes: z
        .array(z.object({ ...place, values }))
        .max(5000)
        .default([]),
      removes: z.array(z.object(place)).max(5000).default([]),
    }),
  },
  (event, { body }) => writeRows(useServices().database, personOf(event), registerOf(event), body),
)

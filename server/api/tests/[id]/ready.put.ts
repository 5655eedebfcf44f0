import * as z from 'zod'
import { markReady } from '../../../db/tests/readiness'

const body = z.object({
  key: z.string(),
  state: z.enum(['open', 'done', 'overridden']),
  reason: z.string().default(''),
  reading: z.string().optional(),
})

export default defineRoute(async event =>
  markReady(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)),
)

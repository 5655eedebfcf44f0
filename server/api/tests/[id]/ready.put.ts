import * as z from 'zod'
import { markReady } from '../../../db/tests/readiness'

/** Ticks, measures, overrides or signs an item of the checklist. */
export default defineRoute(
  {
    body: z.object({
      key: z.string(),
      state: z.enum(['open', 'done', 'overridden']),
      reason: z.string().default(''),
      reading: z.string().optional(),
    }),
  },
  (event, { body }) => markReady(useServices().database, personOf(event), idOf(event), body),
)

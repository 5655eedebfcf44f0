import * as z from 'zod'
import { savePlan } from '../../../db/tests/plans'

/** Keeps a draft of the plan; refused when somebody else changed it in the meantime. */
export default defineRoute(
  {
    isRows: true,
    body: z.object({ plan: z.record(z.string(), z.unknown()), edit: z.number().int().nullable().default(null) }),
  },
  (event, { body }) => {
    const { plan, edit } = body
    return savePlan(useServices().database, personOf(event), idOf(event), plan, edit)
  },
)

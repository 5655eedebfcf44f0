import * as z from 'zod'
import { planVersionOf } from '../../../../db/tests/plans'

/** A released version of the plan. */
export default defineRoute({ query: z.object({ number: z.coerce.number().int() }) }, (event, { query }) =>
  planVersionOf(useServices().database.read, idOf(event), query.number),
)

import * as z from 'zod'
import { planVersionOf } from '../../../../db/tests/plans'

const query = z.object({ number: z.coerce.number().int() })

export default defineRoute(event =>
  planVersionOf(useServices().database.read, idOf(event), query.parse(getQuery(event)).number),
)

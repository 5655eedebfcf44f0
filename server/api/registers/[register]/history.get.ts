import * as z from 'zod'
import { historyOf } from '../../../db/registers/service'

/** Every change of one row. */
export default defineRoute({ query: z.object({ id: z.coerce.number().int() }) }, (event, { query }) =>
  historyOf(useServices().database.read, registerOf(event), query.id),
)

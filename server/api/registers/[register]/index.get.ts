import * as z from 'zod'
import { listRows } from '../../../db/registers/service'

/** The rows of a register. */
export default defineRoute({ query: z.object({ campaignId: optionalId }) }, (event, { query }) =>
  listRows(useServices().database.read, registerOf(event), query.campaignId),
)

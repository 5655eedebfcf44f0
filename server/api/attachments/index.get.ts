import * as z from 'zod'
import { attachmentsOf } from '../../db/tests/attachments'

/** What is attached to a row. */
export default defineRoute(
  { query: z.object({ entity: z.string(), id: z.coerce.number().int() }) },
  (event, { query }) => {
    const { entity, id } = query
    return attachmentsOf(useServices().database.read, entity, id)
  },
)

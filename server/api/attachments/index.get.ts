import * as z from 'zod'
import { attachmentsOf } from '../../db/tests/attachments'

const query = z.object({ entity: z.string(), id: z.coerce.number().int() })

export default defineRoute(event => {
  const { entity, id } = query.parse(getQuery(event))
  return attachmentsOf(useServices().database.read, entity, id)
})

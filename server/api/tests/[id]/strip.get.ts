import * as z from 'zod'
import { reductionInput } from '../../../db/reductions'
import { readStrip } from '../../../db/samples'

const query = z.object({ roles: z.string(), width: z.coerce.number().int().min(10).max(4000).default(1000) })

/** The newest data of a test as minima and maxima for drawing. */
export default defineRoute(async event => {
  const { read } = useServices().database
  const { roles, width } = query.parse(getQuery(event))
  const { datasetId } = await reductionInput(read, idOf(event), null)
  return readStrip(read, datasetId, roles.split(','), width)
})

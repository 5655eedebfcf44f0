import * as z from 'zod'
import { sizingInputOf } from '../../../db/articles/sizing'

const query = z.object({ from: z.enum(['test', 'revision']).default('test') })

/** All that changes are sized from: the browser's worker does the sums. */
export default defineRoute(async event => {
  const { input, specimens } = await sizingInputOf(
    useServices().database.read,
    idOf(event),
    query.parse(getQuery(event)).from,
  )
  return { input, specimens }
})

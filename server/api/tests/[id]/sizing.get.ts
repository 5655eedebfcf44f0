import * as z from 'zod'
import { sizingInputOf } from '../../../db/articles/sizing'

/** All that changes are sized from: the browser's worker does the sums. */
export default defineRoute(
  { query: z.object({ from: z.enum(['test', 'revision']).default('test') }) },
  async (event, { query }) => {
    const { input, specimens } = await sizingInputOf(useServices().database.read, idOf(event), query.from)
    return { input, specimens }
  },
)

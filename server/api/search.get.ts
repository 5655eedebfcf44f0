import * as z from 'zod'
import { search } from '../db/campaigns/search'

/** Articles, tests, sensors and lessons whose text holds the words. */
export default defineRoute({ query: z.object({ q: z.string().default('') }) }, (_, { query }) =>
  search(useServices().database.read, query.q),
)

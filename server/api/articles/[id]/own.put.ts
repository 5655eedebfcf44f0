import * as z from 'zod'
import { declareOwn } from '../../../db/articles/own'

/** Results of an article's own, read from any channel of its tests. */
export default defineRoute(
  { body: z.object({ own: z.array(z.record(z.string(), z.unknown())).max(200) }) },
  (event, { body }) => declareOwn(useServices().database, personOf(event), idOf(event), body.own),
)

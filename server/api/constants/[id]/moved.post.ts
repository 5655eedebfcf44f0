import * as z from 'zod'
import { movedBy } from '../../../db/articles/constantsMoved'

/** What would be recomputed if this constant had other values. */
export default defineRoute({ body: z.record(z.string(), z.unknown()) }, (event, { body }) =>
  movedBy(useServices().database.read, idOf(event), body),
)

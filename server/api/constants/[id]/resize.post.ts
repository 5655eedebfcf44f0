import * as z from 'zod'
import { sizeAnew } from '../../../db/articles/constantsMoved'

/** Computes the sizes of revisions anew from the constant that replaced this one. */
export default defineRoute({ body: z.object({ revisionIds: z.array(z.number().int()).min(1) }) }, (event, { body }) =>
  sizeAnew(useServices().database, personOf(event), idOf(event), body.revisionIds),
)

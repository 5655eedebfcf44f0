import * as z from 'zod'
import { replaceConstant } from '../../../db/articles/constantsMoved'

/** Replaces a constant by a new one and recomputes the results named. */
export default defineRoute(
  {
    body: z.object({
      replacement: z.record(z.string(), z.unknown()),
      version: z.number().int(),
      recompute: z.array(z.number().int()),
    }),
  },
  (event, { body }) => replaceConstant(useServices().database, personOf(event), idOf(event), body),
)

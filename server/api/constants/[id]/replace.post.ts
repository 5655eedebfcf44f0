import * as z from 'zod'
import { replaceConstant } from '../../../db/articles/constantsMoved'

const body = z.object({
  replacement: z.record(z.string(), z.unknown()),
  version: z.number().int(),
  recompute: z.array(z.number().int()),
})

export default defineRoute(async event =>
  replaceConstant(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)),
)

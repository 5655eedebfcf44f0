import * as z from 'zod'
import { markReady } from '../../../db/tests'

const body = z.object({ key: z.string(), state: z.enum(['open', 'done', 'overridden']), reason: z.string().default('') })

export default defineRoute(async event => {
  await markReady(useServices().database, personOf(event), idOf(event), await bodyOf(event, body))
  return { ok: true }
})

import * as z from 'zod'
import { savePlan } from '../../../db/tests/plans'

const body = z.object({ plan: z.record(z.string(), z.unknown()), edit: z.number().int().nullable().default(null) })

export default defineRoute(async event => {
  const { plan, edit } = await bodyOf(event, body)
  return savePlan(useServices().database, personOf(event), idOf(event), plan, edit)
})

import * as z from 'zod'
import { savePlan } from '../../../db/tests'

export default defineRoute(async event => {
  await savePlan(useServices().database, personOf(event), idOf(event), await bodyOf(event, z.record(z.string(), z.unknown())))
  return { ok: true }
})

import * as z from 'zod'
import { addMaterial } from '../../../db/campaigns'

export default defineRoute(async event => {
  await addMaterial(useServices().database, personOf(event), getRouterParam(event, 'slug')!, await bodyOf(event, z.record(z.string(), z.unknown())))
  return { ok: true }
})

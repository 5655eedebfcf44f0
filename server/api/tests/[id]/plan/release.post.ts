import * as z from 'zod'
import { releasePlan } from '../../../../db/tests/plans'

const body = z.object({ edit: z.number().int().nullable().default(null) })

export default defineRoute(async event =>
  releasePlan(useServices().database, personOf(event), idOf(event), (await bodyOf(event, body)).edit),
)

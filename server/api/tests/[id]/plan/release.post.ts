import * as z from 'zod'
import { releasePlan } from '../../../../db/tests/plans'

/** Releases the plan as it stands. */
export default defineRoute({ body: z.object({ edit: z.number().int().nullable().default(null) }) }, (event, { body }) =>
  releasePlan(useServices().database, personOf(event), idOf(event), body.edit),
)

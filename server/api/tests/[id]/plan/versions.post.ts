import * as z from 'zod'
import { beginPlanVersion } from '../../../../db/tests/plans'

/** Begins a new version of a released plan. */
export default defineRoute({ body: z.object({ reason: z.string() }) }, (event, { body }) =>
  beginPlanVersion(useServices().database, personOf(event), idOf(event), body.reason),
)

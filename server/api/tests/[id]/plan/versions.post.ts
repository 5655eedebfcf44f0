import * as z from 'zod'
import { beginPlanVersion } from '../../../../db/tests/plans'

const body = z.object({ reason: z.string() })

export default defineRoute(async event =>
  beginPlanVersion(useServices().database, personOf(event), idOf(event), (await bodyOf(event, body)).reason),
)

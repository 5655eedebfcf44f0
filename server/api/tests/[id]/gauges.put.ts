import * as z from 'zod'
import { nameGauge } from '../../../db/records/gauges'

/** Says which sensor read a channel of the newest record. */
export default defineRoute(
  { body: z.object({ role: z.string(), sensorId: z.number().int().positive().nullable() }) },
  async (event, { body }) => {
    await nameGauge(useServices().database, personOf(event), idOf(event), body)
    return { ok: true }
  },
)

import * as z from 'zod'
import { nameGauge } from '../../../db/records/gauges'
import { supersede } from '../../../jobs/anew'

/** Says which sensor read a channel of the newest record. */
export default defineRoute(
  { body: z.object({ role: z.string(), sensorId: z.number().int().positive().nullable() }) },
  async (event, { body }) => {
    const services = useServices()
    const by = personOf(event)
    await nameGauge(services.database, by, idOf(event), body)
    return supersede(services, by, idOf(event))
  },
)

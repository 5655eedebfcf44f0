import * as z from 'zod'
import { mendChannel } from '../../../db/records/mending'
import { takeAnew } from '../../../jobs/anew'

const number = z.number().refine(Number.isFinite, 'This is no number.')

/** Says anew what a channel is: its role, unit, sign, scale; what rests on it is worked out anew. */
export default defineRoute(
  {
    body: z.object({
      role: z.string().max(200).optional(),
      unit: z.string().max(40).optional(),
      scale: number.optional(),
      offset: number.optional(),
    }),
  },
  async (event, { body }) => {
    const services = useServices()
    const by = personOf(event)
    const { datasetId } = await mendChannel(services.database, by, idOf(event), body)
    return takeAnew(services, by, datasetId)
  },
)

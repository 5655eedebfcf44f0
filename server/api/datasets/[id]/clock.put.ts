import * as z from 'zod'
import { moveClock } from '../../../db/records/clocks'
import { takeAnew } from '../../../jobs/anew'

/** Sets the clock of a record that joins another, s; what is derived from both follows. */
export default defineRoute(
  { body: z.object({ offset: z.number().refine(v => Math.abs(v) < 1e9, 'No clock is that far off.') }) },
  async (event, { body }) => {
    const services = useServices()
    const { offset } = body
    const by = personOf(event)
    await moveClock(services.database, by, idOf(event), offset)
    return takeAnew(services, by, idOf(event), { isMoved: true })
  },
)

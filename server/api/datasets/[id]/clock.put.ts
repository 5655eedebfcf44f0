import * as z from 'zod'
import { forgetChannels } from '../../../db/records/chunkIndex'
import { moveClock } from '../../../db/records/clocks'

/** Sets the clock of a record that joins another, s; what is derived from both follows. */
export default defineRoute(
  { body: z.object({ offset: z.number().refine(v => Math.abs(v) < 1e9, 'No clock is that far off.') }) },
  async (event, { body }) => {
    const { database, jobs } = useServices()
    const { offset } = body
    await moveClock(database, personOf(event), idOf(event), offset)
    forgetChannels(database.read, await jobs.call('rederive', { datasetId: idOf(event) }))
    await jobs.call('pairs', { datasetId: idOf(event) })
    return { ok: true }
  },
)

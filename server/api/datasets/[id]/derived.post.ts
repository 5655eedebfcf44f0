import * as z from 'zod'
import { mendChannel } from '../../../db/records/mending'
import { deleteDerived } from '../../../db/records/records'
import { takeAnew } from '../../../jobs/anew'
import { derivePayload } from '../../../jobs/derive'

/** A derived channel, drawn at once; with a name it is kept, with a role reductions read it as that. */
export default defineRoute(
  {
    body: derivePayload.omit({ datasetId: true, keep: true }).extend({
      name: z.string().trim().max(80).nullable(),
      role: z.string().trim().min(1).max(80).nullable().default(null),
    }),
  },
  async (event, { body }) => {
    const services = useServices()
    const { name, role, ...asked } = body
    const datasetId = idOf(event)
    const keep = name === null ? null : { name, by: personOf(event) }
    const made = await services.jobs.call('derive', { ...asked, datasetId, keep })
    if (made.id === null || role === null) return made
    const by = personOf(event)
    try {
      await mendChannel(services.database, by, made.id, { role })
    } catch (e) {
      // What cannot be the role is not kept under its name either.
      await deleteDerived(services.database, by, made.id)
      throw e
    }
    await takeAnew(services, by, datasetId)
    return made
  },
)

import { streamSources } from '../../../environment'
import { startBody } from '../../../live/startBody'
import { assertAllowed } from '../../../live/streamSetUp'

/** Starts a run. */
export default defineRoute({ body: startBody }, async (event, { body }) => {
  if (body.source === 'stream') await assertAllowed(body.setUp.where, streamSources())
  return { runId: await useServices().runs.start(personOf(event), idOf(event), body) }
})

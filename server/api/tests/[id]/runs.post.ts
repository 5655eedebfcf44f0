import { startBody } from '../../../live/startBody'

/** Starts a run. */
export default defineRoute({ body: startBody }, async (event, { body }) => ({
  runId: await useServices().runs.start(personOf(event), idOf(event), body),
}))

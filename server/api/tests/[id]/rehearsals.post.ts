import { rehearsalBody } from '../../../live/startBody'

/** Starts a rehearsal on the simulated rig. */
export default defineRoute({ body: rehearsalBody }, async (event, { body }) => ({
  runId: await useServices().runs.rehearse(personOf(event), idOf(event), body),
}))

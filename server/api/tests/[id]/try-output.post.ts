import { HypometError } from '@hypomet/core'
import * as z from 'zod'
import { tryAbortOutput } from '../../../live/tryAbortOutput'

/** Makes an output of the abort do what it does, and ticks it on the checklist where it was taken. */
export default defineRoute({ body: z.object({ index: z.number().int().min(0) }) }, async (event, { body }) => {
  const { database, runs } = useServices()
  const testId = idOf(event)
  if ((await runs.going()).some(g => g.testId === testId && !g.isRehearsal))
    throw new HypometError('already-running', 'A run of this test is on: nothing is tried on its rig.')
  return tryAbortOutput(database, personOf(event), testId, body.index)
})

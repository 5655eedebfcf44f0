import * as z from 'zod'
import { undoStep } from '../db/registers/undo'

/** Takes back one step. */
export default defineRoute({ body: z.object({ step: z.uuid() }) }, (event, { body }) =>
  undoStep(useServices().database, personOf(event), body.step),
)

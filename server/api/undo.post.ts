import * as z from 'zod'
import { undoStep } from '../db/registers/undo'

export default defineRoute(async event =>
  undoStep(useServices().database, personOf(event), (await bodyOf(event, z.object({ step: z.uuid() }))).step),
)

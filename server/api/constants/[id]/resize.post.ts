import * as z from 'zod'
import { sizeAnew } from '../../../db/articles/constantsMoved'

export default defineRoute(async event =>
  sizeAnew(
    useServices().database,
    personOf(event),
    idOf(event),
    (await bodyOf(event, z.object({ revisionIds: z.array(z.number().int()).min(1) }))).revisionIds,
  ),
)

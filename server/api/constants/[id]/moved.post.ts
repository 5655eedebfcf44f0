import * as z from 'zod'
import { movedBy } from '../../../db/articles/constantsMoved'

export default defineRoute(async event =>
  movedBy(useServices().database.read, idOf(event), await bodyOf(event, z.record(z.string(), z.unknown()))),
)

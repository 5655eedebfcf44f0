import * as z from 'zod'
import { historyOf } from '../../../db/registers/book'

export default defineRoute(event =>
  historyOf(useServices().database.read, registerOf(event), z.coerce.number().int().parse(getQuery(event)['id'])),
)

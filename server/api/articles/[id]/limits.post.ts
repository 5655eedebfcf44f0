import * as z from 'zod'
import { createLimit } from '../../../db/campaigns'
import { quantityInput } from '../../../utils/bodies'

const body = z.object({
  name: z.string().trim().min(1, 'A limit needs a name.'),
  quantity: z.string(),
  comparator: z.enum(['atLeast', 'atMost']),
  level: z.enum(['service', 'limit', 'ultimate', 'required-factor']),
  entered: quantityInput,
  source: z.string().default(''),
})

export default defineRoute(async event => createLimit(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)))

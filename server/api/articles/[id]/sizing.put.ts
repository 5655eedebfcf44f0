import type { SizingRulesInput } from '@hypomet/core'
import * as z from 'zod'
import { keepSizingRules } from '../../../db/articles/sizing'

/** The rules by which candidates for the next revision are proposed. */
export default defineRoute({ body: z.record(z.string(), z.unknown()) }, (event, { body }) =>
  keepSizingRules(useServices().database, personOf(event), idOf(event), body as SizingRulesInput),
)

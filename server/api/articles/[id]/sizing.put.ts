import type { SizingRulesInput } from '@hypomet/core'
import * as z from 'zod'
import { keepSizingRules } from '../../../db/articles/sizing'

export default defineRoute(async event =>
  keepSizingRules(
    useServices().database,
    personOf(event),
    idOf(event),
    (await bodyOf(event, z.record(z.string(), z.unknown()))) as SizingRulesInput,
  ),
)

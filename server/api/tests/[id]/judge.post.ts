import { CAUSES } from '@hypomet/core'
import * as z from 'zod'
import { recordJudgement } from '../../../db/results/judgements'

const body = z.object({
  validity: z.enum(['valid', 'valid-with-remarks', 'invalid']),
  cause: z.enum(CAUSES),
  place: z.string().default(''),
  mode: z.string().default(''),
  note: z.string().default(''),
  answers: z.record(z.string(), z.object({ says: z.enum(['yes', 'no']), note: z.string().default('') })).default({}),
})

export default defineRoute(async event =>
  recordJudgement(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)),
)

import { CAUSES } from '@hypomet/core'
import * as z from 'zod'
import { recordJudgement } from '../../../db/results/judgements'

/** Decides validity, cause and verdicts of a test. */
export default defineRoute(
  {
    body: z.object({
      validity: z.enum(['valid', 'valid-with-remarks', 'invalid']),
      cause: z.enum(CAUSES),
      place: z.string().default(''),
      mode: z.string().default(''),
      note: z.string().default(''),
      answers: z
        .record(z.string(), z.object({ says: z.enum(['yes', 'no']), note: z.string().default('') }))
        .default({}),
    }),
  },
  (event, { body }) => recordJudgement(useServices().database, personOf(event), idOf(event), body),
)

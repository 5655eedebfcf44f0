import * as z from 'zod'
import { recordJudgement } from '../../../db/judgements'

const body = z.object({
  validity: z.enum(['valid', 'valid-with-remarks', 'invalid']),
  cause: z.enum(['none', 'article', 'fixture', 'instrumentation', 'procedure', 'manufacture']),
  place: z.string().default(''),
  mode: z.string().default(''),
  note: z.string().default(''),
})

export default defineRoute(async event => recordJudgement(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)))

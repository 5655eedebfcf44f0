import * as z from 'zod'
import { createTest } from '../../../db/tests/tests'

const body = z.object({
  title: z.string(),
  plan: z.record(z.string(), z.unknown()).nullable().default(null),
  fixture: z.string().default(''),
  method: z.string().default(''),
  notes: z.string().default(''),
  plannedOn: z.iso.date().nullable().default(null),
  cost: z.number().min(0).nullable().default(null),
})

export default defineRoute(async event =>
  createTest(useServices().database, personOf(event), idOf(event), await bodyOf(event, body)),
)

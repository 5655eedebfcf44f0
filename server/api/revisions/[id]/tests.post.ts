import * as z from 'zod'
import { createTest } from '../../../db/tests/tests'

/** A new test of a revision. */
export default defineRoute(
  {
    body: z.object({
      title: z.string(),
      plan: z.record(z.string(), z.unknown()).nullable().default(null),
      fixture: z.string().default(''),
      method: z.string().default(''),
      notes: z.string().default(''),
      plannedOn: z.iso.date().nullable().default(null),
      cost: z.number().min(0).nullable().default(null),
    }),
  },
  (event, { body }) => createTest(useServices().database, personOf(event), idOf(event), body),
)

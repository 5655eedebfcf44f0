import * as z from 'zod'
import { strikeOut } from '../../../db/tests/runNotes'

/** Strikes a reading by hand out of a run that is over, with the right one beside it. */
export default defineRoute(
  {
    body: z.object({
      at: z.number({ error: 'A time in seconds on the record’s clock.' }),
      role: z.string().min(1).max(100),
      /** SI */
      value: z.number({ error: 'The right reading.' }),
      note: z.string().trim().max(300).default(''),
    }),
  },
  (event, { body }) => strikeOut(useServices().database, personOf(event), idOf(event), body),
)

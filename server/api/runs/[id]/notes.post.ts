import * as z from 'zod'
import { pinNote } from '../../../db/tests/runNotes'

/** A note pinned to a moment of a run that is over. */
export default defineRoute(
  {
    body: z.object({
      t: z.number({ error: 'A time in seconds on the record’s clock.' }),
      note: z.string().trim().min(1, 'A note says something.').max(500, 'A note is short.'),
    }),
  },
  (event, { body }) => pinNote(useServices().database, personOf(event), idOf(event), body),
)

import * as z from 'zod'
import { acceptCandidate } from '../../../db/articles/changes'

const words = z.string().trim()
/** Makes the next revision of a candidate, with its predictions. */
export default defineRoute(
  {
    body: z.object({
      candidateId: z.string().optional(),
      sizes: z.record(z.string(), z.number().positive()).optional(),
      label: words.min(1, 'A revision needs a label.').max(12, 'A label is short.'),
      from: z.enum(['test', 'revision']).default('test'),
      reasons: words.default(''),
      weights: z.record(z.string(), z.number().min(0)).default({}),
      lesson: z
        .object({
          title: words.min(1, 'A lesson needs a title.'),
          happened: words.min(1, 'Say what happened.'),
          instead: words.min(1, 'Say what to do instead.'),
        })
        .optional(),
    }),
  },
  (event, { body }) => acceptCandidate(useServices().database, personOf(event), idOf(event), body),
)

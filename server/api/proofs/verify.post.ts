import * as z from 'zod'
import { auditHead } from '../../db/connection/auditHead'

/** Holds all that is stored against what was written down of it; a job. */
export default defineRoute(
  {
    body: z.object({
      slug: z.string().max(200).nullable().default(null),
      recompute: z.boolean(),
      heads: z.array(auditHead).max(100).default([]),
    }),
  },
  async (event, { body }) => ({
    jobId: await useServices().proofs.verify(personOf(event), {
      slug: body.slug,
      isRecomputed: body.recompute,
      heads: body.heads,
    }),
  }),
)

import * as z from 'zod'

/** Holds all that is stored against what was written down of it; a job. */
export default defineRoute(
  { body: z.object({ slug: z.string().max(200).nullable().default(null), recompute: z.boolean() }) },
  async (event, { body }) => ({
    jobId: await useServices().proofs.verify(personOf(event), { slug: body.slug, isRecomputed: body.recompute }),
  }),
)

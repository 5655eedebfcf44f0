import * as z from 'zod'
import { createArticle } from '../../db/campaigns/campaigns'
import { newRevision } from '../../utils/bodies'

/** A new article with its first revision. */
export default defineRoute(
  {
    body: z.object({
      campaignId: z.number().int(),
      name: z.string(),
      family: z.string(),
      note: z.string().default(''),
      features: z.array(z.string()).default([]),
      places: z.array(z.string()).default([]),
      revision: newRevision,
    }),
  },
  (event, { body }) => {
    const { campaignId, ...input } = body
    return createArticle(useServices().database, personOf(event), campaignId, input)
  },
)

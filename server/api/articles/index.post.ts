import * as z from 'zod'
import { createArticle } from '../../db/campaigns/campaigns'
import { newRevision } from '../../utils/bodies'

const body = z.object({
  campaignId: z.number().int(),
  name: z.string(),
  family: z.string(),
  note: z.string().default(''),
  features: z.array(z.string()).default([]),
  revision: newRevision,
})

export default defineRoute(async event => {
  const { campaignId, ...input } = await bodyOf(event, body)
  return createArticle(useServices().database, personOf(event), campaignId, input)
})

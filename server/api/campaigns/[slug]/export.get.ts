import { campaignBySlug } from '../../../db/campaigns/campaigns'
import { campaignFile } from '../../../reports/registers'

/** A whole campaign as an archive that recomputes elsewhere. */
export default defineRoute(async event => {
  const { database, proofs } = useServices()
  const { read } = database
  const { id, slug } = await campaignBySlug(read, getRouterParam(event, 'slug')!)
  setResponseHeaders(event, {
    'content-type': 'application/json; charset=utf-8',
    'content-disposition': `attachment; filename="${slug}.json"`,
  })
  return campaignFile(read, id, await proofs.head())
})

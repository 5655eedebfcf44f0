import { listCampaigns } from '../../db/campaigns/campaigns'

/** All campaigns. */
export default defineRoute(() => listCampaigns(useServices().database))

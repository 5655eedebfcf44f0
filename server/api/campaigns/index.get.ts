import { listCampaigns } from '../../db/campaigns/campaigns'

export default defineRoute(() => listCampaigns(useServices().database))

import { listCampaigns } from '../../db/campaigns'

export default defineRoute(() => listCampaigns(useServices().database))

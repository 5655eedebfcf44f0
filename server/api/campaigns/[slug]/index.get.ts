import { campaignPage } from '../../../db/campaigns/campaigns'

export default defineRoute(event => campaignPage(useServices().database, getRouterParam(event, 'slug')!))

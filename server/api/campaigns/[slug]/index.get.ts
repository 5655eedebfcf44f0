import { campaignPage } from '../../../db/campaigns/campaigns'

/** A campaign with its articles, tests and open verdicts. */
export default defineRoute(event => campaignPage(useServices().database, getRouterParam(event, 'slug')!))

import { articlePage } from '../../../db/campaigns/campaigns'

export default defineRoute(event => articlePage(useServices().database, idOf(event)))

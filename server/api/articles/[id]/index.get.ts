import { articlePage } from '../../../db/campaigns'

export default defineRoute(event => articlePage(useServices().database, idOf(event)))

import { articlePage } from '../../../db/campaigns/campaigns'

/** An article with its revisions, limits, tests and rails. */
export default defineRoute(event => articlePage(useServices().database, idOf(event)))

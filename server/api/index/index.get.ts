import { namesOf } from '../../db/campaigns/names'

/** Names of campaigns, articles and tests, with their numbers. */
export default defineRoute(() => namesOf(useServices().database.read))

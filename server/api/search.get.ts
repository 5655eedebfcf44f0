import { search } from '../db/campaigns/search'

export default defineRoute(event => search(useServices().database.read, String(getQuery(event)['q'] ?? '')))

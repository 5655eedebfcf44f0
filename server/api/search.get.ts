import { search } from '../db/search'

export default defineRoute(event => search(useServices().database.read, String(getQuery(event)['q'] ?? '')))

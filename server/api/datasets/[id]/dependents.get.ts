import { dependentsOf } from '../../../db/records/records'

/** What rests on a record; asked before it is deleted. */
export default defineRoute(event => dependentsOf(useServices().database.read, idOf(event)))

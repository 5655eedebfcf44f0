import { recordPage } from '../../../db/records/records'

/** A record with its channels and what was recorded with it. */
export default defineRoute(event => recordPage(useServices().database.read, idOf(event)))

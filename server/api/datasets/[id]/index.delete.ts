import { deleteRecord } from '../../../db/records/records'

/** Takes a record out that nothing kept rests on. */
export default defineRoute(event => deleteRecord(useServices().database, personOf(event), idOf(event)))

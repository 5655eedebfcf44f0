import { recordPage } from '../../../db/records/records'

export default defineRoute(event => recordPage(useServices().database.read, idOf(event)))

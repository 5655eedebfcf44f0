import { listRows } from '../../../db/registers/book'

export default defineRoute(event => listRows(useServices().database.read, registerOf(event), campaignIdOf(event)))

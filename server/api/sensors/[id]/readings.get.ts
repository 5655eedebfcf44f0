import { readingsOf } from '../../../db/registers/inventory'

export default defineRoute(event => readingsOf(useServices().database.read, [idOf(event)]))

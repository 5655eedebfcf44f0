import { readingsOf } from '../../../db/sensors'

export default defineRoute(event => readingsOf(useServices().database.read, [idOf(event)]))

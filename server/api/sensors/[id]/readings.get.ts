import { readingsOf } from '../../../db/registers/inventory'

/** What a sensor has read, test by test. */
export default defineRoute(event => readingsOf(useServices().database.read, [idOf(event)]))

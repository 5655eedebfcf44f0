import { gaugesOf } from '../../../db/records/gauges'

/** The channels that the newest record is reduced from, and the sensor behind each. */
export default defineRoute(event => gaugesOf(useServices().database.read, idOf(event)))

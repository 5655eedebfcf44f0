import { twinsOf } from '../../../db/results/reductions'

/** Tests of the same plan to which settings could be applied. */
export default defineRoute(event => twinsOf(useServices().database.read, idOf(event)))

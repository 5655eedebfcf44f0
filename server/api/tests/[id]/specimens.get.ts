import { specimensOf } from '../../../db/articles/specimens'

/** All specimens of the same kind with their results. */
export default defineRoute(event => specimensOf(useServices().database.read, idOf(event)))

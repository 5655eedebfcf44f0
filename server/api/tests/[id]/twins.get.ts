import { twinsOf } from '../../../db/reductions'

export default defineRoute(event => twinsOf(useServices().database.read, idOf(event)))

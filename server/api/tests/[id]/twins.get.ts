import { twinsOf } from '../../../db/results/reductions'

export default defineRoute(event => twinsOf(useServices().database.read, idOf(event)))

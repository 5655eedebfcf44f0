import { specimensOf } from '../../../db/specimens'

export default defineRoute(event => specimensOf(useServices().database.read, idOf(event)))

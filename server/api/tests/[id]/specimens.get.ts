import { specimensOf } from '../../../db/articles/specimens'

export default defineRoute(event => specimensOf(useServices().database.read, idOf(event)))

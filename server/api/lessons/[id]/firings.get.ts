import { firingsOfLesson } from '../../../db/firings'

export default defineRoute(event => firingsOfLesson(useServices().database.read, idOf(event)))

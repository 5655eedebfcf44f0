import { firingsOfLesson } from '../../../db/tests/firings'

export default defineRoute(event => firingsOfLesson(useServices().database.read, idOf(event)))

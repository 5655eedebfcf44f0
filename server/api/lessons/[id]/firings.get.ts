import { firingsOfLesson } from '../../../db/tests/firings'

/** Where a lesson was shown, and what was answered. */
export default defineRoute(event => firingsOfLesson(useServices().database.read, idOf(event)))

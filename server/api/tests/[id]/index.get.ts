import { testPage } from '../../../db/tests/tests'

export default defineRoute(event => testPage(useServices().database, idOf(event)))

import { testPage } from '../../../db/tests'

export default defineRoute(event => testPage(useServices().database, idOf(event)))

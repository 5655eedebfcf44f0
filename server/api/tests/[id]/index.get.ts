import { testPage } from '../../../db/tests/tests'

/** A test with its plan, record, results, verdicts and stages. */
export default defineRoute(event => testPage(useServices().database, idOf(event)))

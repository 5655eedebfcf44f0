import { plansToStartFrom } from '../../../../db/tests/plans'

/** Plans of other tests from which this one can begin. */
export default defineRoute(event => plansToStartFrom(useServices().database.read, idOf(event)))

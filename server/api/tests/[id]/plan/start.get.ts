import { plansToStartFrom } from '../../../../db/tests/plans'

export default defineRoute(event => plansToStartFrom(useServices().database.read, idOf(event)))

import { plansToStartFrom } from '../../../../db/plans'

export default defineRoute(event => plansToStartFrom(useServices().database.read, idOf(event)))

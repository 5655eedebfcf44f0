import { createRevision } from '../../../db/campaigns'
import { newRevision } from '../../../utils/bodies'

export default defineRoute(async event => createRevision(useServices().database, personOf(event), idOf(event), await bodyOf(event, newRevision)))

import { learningOf } from '../../../db/campaigns/learning'

/** How good the predictions were, what the decisions did, what the lessons saved. */
export default defineRoute(event => learningOf(useServices().database.read, getRouterParam(event, 'slug')!))

import { rehearsalBody } from '../../../live/startBody'

export default defineRoute(async event => ({
  runId: await useServices().runs.rehearse(personOf(event), idOf(event), await bodyOf(event, rehearsalBody)),
}))
